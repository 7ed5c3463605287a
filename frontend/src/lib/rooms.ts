import { ROOMS, STOREYS } from './api/tables.gen';

export type RoomSlug = (typeof ROOMS)[number]['slug'];
export type StoreySlug = (typeof STOREYS)[number]['slug'];
export type Room = (typeof ROOMS)[number];

/** The rooms of a storey, in their order. */
export function roomsOf(storey: StoreySlug): Room[] {
  return ROOMS.filter((r) => r.storey === storey);
}

/** The room of a board that an address leads to; null outside of boards. */
export function roomAt(pathname: string): Room | null {
  const [, slug] = /^\/builds\/[^/]+(?:\/([a-z]+))?\/?$/.exec(pathname) ?? [];
  if (!pathname.startsWith('/builds/')) return null;
  return ROOMS.find((r) => r.slug === (slug ?? 'stands')) ?? null;
}
