import { del, get, set } from 'idb-keyval';

const LONGEST_SIDE = 2000;
/** What a phone takes at most; anything larger is no photo of a bench. */
export const LARGEST = 50_000_000;

/** Why a file cannot be kept as a photo, in words; or the photo, made small enough to be sent from a garage. */
export type Prepared = { photo: Blob } | { reason: string };

/** A photo as it is kept and sent: no larger than needed. What the browser cannot read is no photo. */
export async function prepared(file: File): Promise<Prepared> {
  if (file.size > LARGEST)
    return {
      reason: `${file.name} has ${Math.round(file.size / 1e6)} MB; a photo of at most ${LARGEST / 1e6} MB can be kept.`,
    };
  let picture: ImageBitmap;
  try {
    picture = await createImageBitmap(file, { imageOrientation: 'from-image' });
  } catch {
    return { reason: `${file.name} is no photo that can be read; JPEG, PNG and WebP can.` };
  }
  const scale = Math.min(1, LONGEST_SIDE / Math.max(picture.width, picture.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(Math.round(picture.width * scale), 1);
  canvas.height = Math.max(Math.round(picture.height * scale), 1);
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  const photo = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg', 0.85));
  return photo ? { photo } : { reason: `${file.name} could not be made small enough to be kept.` };
}

const key = (build: string, entry: string) => `photo:${build}:${entry}`;

/** Keeps a photo on this device until it has been sent; false where the device has no page. */
export async function keepPhoto(build: string, entry: string, photo: Blob): Promise<boolean> {
  try {
    // As bytes: not every browser keeps a Blob over a restart.
    await set(key(build, entry), await photo.arrayBuffer());
    return true;
  } catch {
    return false;
  }
}

export async function keptPhoto(build: string, entry: string): Promise<Blob | null> {
  const kept = await get<ArrayBuffer>(key(build, entry)).catch(() => undefined);
  return kept ? new Blob([kept], { type: 'image/jpeg' }) : null;
}

export async function dropPhoto(build: string, entry: string): Promise<void> {
  await del(key(build, entry)).catch(() => undefined);
}
