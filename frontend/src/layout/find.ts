import { messageText } from '$lib/reader.svelte';
import MiniSearch from 'minisearch';
import type { Finding, Message } from '$lib/api/client';
import { FIGURES, KINDS, PAGES, STATIONS, TERMS } from '$lib/api/tables.gen';
import { addressOf } from '$lib/navigation';
import { kindName } from '$lib/parts';

/** The groups of what is found, as they are headed. */
export type Group = 'Pages' | 'Boards' | 'Parts' | 'Fields' | 'Findings' | 'Words explained';

/** Something that the find box can lead to. */
export interface Entry {
  id: string;
  group: Group;
  title: string;
  /** Where it is, or what it says. */
  about: string;
  /** Other names by which it is found. */
  also: string;
  /** Where it leads; null where it only says something. */
  href: string | null;
}

const entry = (
  group: Group,
  key: string,
  title: string,
  about: string,
  also: string,
  href: string | null,
): Entry => ({ id: `${group}:${key}`, group, title, about, also, href });

/** The fields that a part or a section has of its own, where each is entered on the design page. */
function fieldsOf(board: string): Entry[] {
  const places = STATIONS.flatMap((station) => [
    ...station.kinds.map((kind) => ({ path: KINDS[kind]!.path, name: kindName(kind) })),
    ...station.sections.map(({ field, name }) => ({ path: field, name })),
  ]);
  return places.flatMap(({ path, name }) =>
    Object.entries(FIGURES)
      .filter(([field, { group }]) => {
        const own = field.startsWith(`${path}.`) && !field.slice(path.length + 1).includes('.');
        return own && !field.includes('*') && (group === undefined || group === 'board');
      })
      .map(([field, spec]) =>
        entry('Fields', field, spec.title, name, spec.also ?? '', addressOf(board, 'design', field)),
      ),
  );
}

/** What is there on every board and without one: pages, types of part, fields, words. */
export function fixedEntries(board: string | null): Entry[] {
  const outside = [
    entry('Pages', '/', 'Boards', 'All your boards', 'home, workshop, start', '/'),
    entry('Pages', '/library', 'Library', 'All parts', 'parts, catalogue, components', '/library'),
    entry(
      'Pages',
      '/new-board',
      'New board',
      'Start a board',
      'add, create, begin, kit, import',
      '/new-board',
    ),
  ];
  const pages = board
    ? PAGES.map((p) => entry('Pages', p.slug, p.title, 'This board', p.also, addressOf(board, p.slug)))
    : [];
  const kinds = Object.entries(KINDS)
    .filter(([, kind]) => !kind.shelvedAs)
    .map(([slug, kind]) =>
      entry('Parts', slug, kind.name, 'In the library', kind.also, `/library?kind=${slug}`),
    );
  const terms = TERMS.map((term) =>
    entry('Words explained', term.slug, term.title, term.text, term.also, fieldOf(board, term.fields)),
  );
  return [...pages, ...outside, ...kinds, ...(board ? fieldsOf(board) : []), ...terms];
}

function fieldOf(board: string | null, fields: string[]): string | null {
  return board && fields[0] ? addressOf(board, 'design', fields[0]) : null;
}

export function boardEntries(boards: { id: string; name: string }[]): Entry[] {
  return boards.map(({ id, name }) => entry('Boards', id, name, 'Your board', '', addressOf(id)));
}

export function findingEntries(
  board: string,
  findings: Finding[],
  say: (message: Message) => string,
): Entry[] {
  return findings.map((f) =>
    entry(
      'Findings',
      f.id,
      messageText(f.title),
      say(f.message),
      f.about.join(' '),
      addressOf(board, 'design', f.fields[0]),
    ),
  );
}

export function partEntries(
  parts: { id: string; kind: string; record: { name?: string | null } }[],
): Entry[] {
  return parts.map(({ id, kind, record }) =>
    entry('Parts', id, record.name ?? kindName(kind), kindName(kind), '', `/library?kind=${kind}&part=${id}`),
  );
}

/** Any count of cells is found where one is named: 12S3P as 10S4P. */
function term(word: string): string | null {
  const lower = word.toLowerCase();
  if (!lower) return null;
  return /^(\d+s)?(\d+p)?$/.test(lower) ? lower.replace(/\d+/g, '#') : lower;
}

/** An index of what can be found. */
export function indexOf(entries: Entry[]): MiniSearch<Entry> {
  const index = new MiniSearch<Entry>({
    fields: ['title', 'also', 'about'],
    storeFields: ['group', 'title', 'about', 'href'],
    processTerm: term,
    searchOptions: {
      prefix: true,
      fuzzy: (word) => (word.length > 4 ? 0.2 : false),
      boost: { title: 3, also: 2 },
      combineWith: 'AND',
      boostDocument: (_, __, stored) => (stored?.group === 'Pages' ? 1.5 : 1),
    },
  });
  index.addAll([...new Map(entries.map((e) => [e.id, e])).values()]);
  return index;
}

const MOST_OF_A_GROUP = 6;

/** What matches, in groups: the best match's group first. */
export function search(index: MiniSearch<Entry>, words: string): { group: Group; entries: Entry[] }[] {
  const groups = new Map<Group, Entry[]>();
  for (const hit of index.search(words)) {
    const one = hit as unknown as Entry;
    const group = groups.get(one.group) ?? [];
    if (group.length < MOST_OF_A_GROUP) group.push(one);
    groups.set(one.group, group);
  }
  return [...groups].map(([group, entries]) => ({ group, entries }));
}
