/** Entries of the log as this device makes them: each has an id of its own, so that it arrives once however often it is sent. */
export interface Entry {
  kind:
    | 'done'
    | 'still_right'
    | 'left_out'
    | 'opened'
    | 'noted'
    | 'measured'
    | 'photographed'
    | 'moved'
    | 'tool'
    | 'wished'
    | 'rode'
    | 'taken_back';
  id: string;
  at: string;
  by: string;
  step?: string | null;
  [more: string]: unknown;
}

/** A new id; browsers give one only to pages that came over an encrypted way. */
export function newId(): string {
  if (typeof crypto.randomUUID === 'function') return crypto.randomUUID();
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6]! & 0x0f) | 0x40;
  bytes[8] = (bytes[8]! & 0x3f) | 0x80;
  const hex = [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-');
}

/** An entry made now. */
export function entry(kind: Entry['kind'], by: string, more: Record<string, unknown>): Entry {
  const said = Object.fromEntries(Object.entries(more).filter(([, value]) => value !== undefined));
  return { kind, id: newId(), at: new Date().toISOString(), by: by.slice(0, 60), ...said };
}
