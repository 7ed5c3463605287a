import { beforeEach, expect, test, vi } from 'vitest';
import { reader } from '$lib/reader.svelte';
import { notices } from '$lib/ui/notices.svelte';
import { render, screen, textOf, userEvent, within } from '../../testing/component';
import { json, server } from '../../testing/server';
import Page from './Page.svelte';
import { downloads } from '../../testing/device';

const user = userEvent.setup();
type Row = {
  id: string;
  kind: string;
  own: boolean;
  assumed: number;
  needs: number;
  record: Record<string, unknown>;
};
const part = (kind: string, name: string, more: object = {}): Row => ({
  id: name,
  kind,
  own: false,
  assumed: 2,
  needs: 0,
  record: { name },
  ...more,
});

/** A library at the server, which finds, counts and cuts as the real one does. */
function library(parts: Row[]) {
  server.on('GET /api/parts', ({ query }) => {
    const word = (query.get('find') ?? '').toLowerCase();
    const found = parts.filter(
      (p) => String(p.record.name).toLowerCase().includes(word) && (query.get('own') !== 'true' || p.own),
    );
    const kinds: Record<string, number> = {};
    for (const p of found) kinds[p.kind] = (kinds[p.kind] ?? 0) + 1;
    const ofKind = found.filter((p) => p.kind === query.get('kind'));
    const [from, limit] = [Number(query.get('offset')), Number(query.get('limit'))];
    return { parts: ofKind.slice(from, from + limit), count: ofKind.length, kinds };
  });
  server.on('GET /api/parts/{id}', ({ params }) => ({
    ...parts.find((p) => p.id === params.id),
    assumed: [],
    missing: [],
  }));
}
const names = () => screen.queryAllByTestId('part').map((row) => row.dataset.name);
async function opened(parts: Row[]) {
  library(parts);
  render(Page);
  await vi.waitFor(() => expect(screen.queryByText('Loading the library…')).toBeNull());
}

beforeEach(() => {
  reader.units = {};
  notices.list = [];
});

test('a kind is shown at a time, with how many each has, and what a part still needs', async () => {
  await opened([
    part('motors', 'Outrunner', {
      record: { name: 'Outrunner', kv_rpm_per_v: 170, price: 80, currency: 'EUR' },
    }),
    part('motors', 'Bare', { needs: 1 }),
    part('decks', 'Plank'),
  ]);
  expect(names()).toEqual(['Outrunner', 'Bare']);
  const [first, second] = screen.getAllByTestId('part').map(textOf);
  expect(first).toContain('170 rpm/V');
  expect(first).toContain('80 €');
  expect(second).toContain('needs 1');
});

test('many parts come by the page, and the search starts over', async () => {
  await opened(Array.from({ length: 90 }, (_, i) => part('motors', `Motor ${String(i).padStart(2, '0')}`)));
  expect(names()).toHaveLength(40);
  await user.click(screen.getByRole('button', { name: 'Show more: 40 of 90 are here' }));
  await vi.waitFor(() => expect(names()).toHaveLength(80));
  await user.type(screen.getByRole('searchbox'), 'Motor 4');
  await vi.waitFor(() => expect(names()).toEqual(Array.from({ length: 10 }, (_, i) => `Motor 4${i}`)));
});

test('a search that finds nothing of this kind goes to where it finds something', async () => {
  await opened([part('motors', 'Outrunner'), part('deck', 'Long plank')]);
  await user.type(screen.getByRole('searchbox'), 'plank');
  await vi.waitFor(() => expect(names()).toEqual(['Long plank']));
  await user.clear(screen.getByRole('searchbox'));
  await user.type(screen.getByRole('searchbox'), 'zzz');
  expect(await screen.findByText('Nothing here is called “zzz”.')).toBeTruthy();
});

test('only one’s own are shown on demand', async () => {
  await opened([part('motors', 'Shared'), part('motors', 'Winch motor', { own: true })]);
  await user.click(screen.getByLabelText('only mine'));
  await vi.waitFor(() => expect(names()).toEqual(['Winch motor']));
});

test('a part is added by its name alone, and a refusal keeps the name', async () => {
  await opened([]);
  server.on('POST /api/parts', () => json(422, { message: 'That name is taken.', faults: [] }));
  await user.click(screen.getByRole('button', { name: 'Add a part' }));
  const dialog = await screen.findByRole('dialog');
  await user.type(within(dialog).getByLabelText('Name'), '  Winch motor ');
  await user.click(within(dialog).getByRole('button', { name: 'Add it' }));
  expect(textOf(await within(dialog).findByRole('alert'))).toBe('That name is taken.');
  expect(within(dialog).getByLabelText<HTMLInputElement>('Name').value).toContain('Winch motor');
  library([part('motors', 'Winch motor', { own: true })]);
  server.on('POST /api/parts', ({ body }) => ({ id: body.record.name, ...body }));
  await user.click(within(dialog).getByRole('button', { name: 'Add it' }));
  await vi.waitFor(() => expect(names()).toEqual(['Winch motor']));
  expect(server.to('POST /api/parts').at(-1)!.body).toEqual({
    kind: 'motors',
    record: { name: 'Winch motor' },
  });
});

test('a library that cannot be reached can be tried again', async () => {
  server.offline = true;
  render(Page);
  const again = await screen.findByRole('button', { name: 'Try again' });
  server.offline = false;
  library([part('motors', 'Outrunner')]);
  await user.click(again);
  await vi.waitFor(() => expect(names()).toEqual(['Outrunner']));
});

// --- a file of parts ------------------------------------------------------------------------------------------------------

const ROWS = [
  { line: 2, kind: 'motors', name: 'Jetty motor', outcome: 'new', faults: [] },
  {
    line: 3,
    kind: 'motors',
    name: 'Bad motor',
    outcome: 'broken',
    faults: [{ field: 'kv_rpm_per_v', reason: '15 to 6000' }],
  },
  { line: 4, kind: 'motors', name: 'Old motor', outcome: 'same', faults: [] },
];

test('a file is checked row by row before anything changes, and what is broken is given back to be mended', async () => {
  await opened([]);
  const rest = 'part,name\nmotors,Bad motor\n';
  server.on('POST /api/parts/import', ({ query }) => {
    const taken = query.get('take') === 'true';
    return { form: 'csv', rows: ROWS, good: 1, taken, rest };
  });
  await user.upload(screen.getByTestId('parts-import'), new File(['x'], 'parts.csv', { type: 'text/csv' }));
  const dialog = await screen.findByRole('dialog');
  const offers = within(dialog).getAllByTestId('offer').map(textOf);
  expect(offers[0]).toContain('kv_rpm_per_v: 15 to 6000');
  expect(offers).toHaveLength(3);
  expect(textOf(dialog)).toContain('Nothing is changed yet.');
  await user.click(within(dialog).getByRole('button', { name: 'Import 1' }));
  await vi.waitFor(() => expect(textOf(dialog)).toContain('Imported, except these rows'));
  expect(within(dialog).getAllByTestId('offer')).toHaveLength(1);
  await user.click(within(dialog).getByRole('button', { name: 'Save rows with errors' }));
  expect(downloads).toMatchObject([{ content: rest, name: 'parts-to-mend.csv' }]);
  expect(notices.list.at(-1)?.text).toBe('1 part added to your library.');
});

test('a file that is no table says why, and the library stays as it was', async () => {
  await opened([]);
  const faults = [{ field: 'the file', reason: 'is neither CSV nor JSON' }];
  server.on('POST /api/parts/import', () => json(422, { message: 'The file cannot be used.', faults }));
  await user.upload(screen.getByTestId('parts-import'), new File(['x'], 'parts.csv', { type: 'text/csv' }));
  const dialog = await screen.findByRole('dialog');
  expect(textOf(dialog)).toContain('is neither CSV nor JSON');
  expect(textOf(dialog)).toContain('Nothing in your library was changed.');
});
