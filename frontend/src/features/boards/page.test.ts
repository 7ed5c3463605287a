import { message } from '../../testing/message';
import { beforeEach, expect, test, vi } from 'vitest';
import type { ListedBoard, Schemas } from '$lib/api/client';
import { installRouter } from '$lib/navigation';
import { notices } from '$lib/ui/notices.svelte';
import { render, screen, textOf, userEvent, within } from '../../testing/component';
import { json, server } from '../../testing/server';
import Page from './Page.svelte';

const user = userEvent.setup();
const opened: string[] = [];

/** So many boards at the server. */
class Boards {
  builds: ListedBoard[];
  binned: ListedBoard[] = [];
  unreadable: Schemas['UnreadableBoard'][] = [];

  constructor(count: number) {
    this.builds = Array.from({ length: count }, (_, i) => row(`b${i}`, `Board ${i}`));
    server.on('GET /api/boards', ({ query }) => {
      const offset = Number(query.get('offset') ?? 0);
      const limit = Number(query.get('limit') ?? 12);
      // As at the server, boards that cannot be read count too.
      const all = [...this.unreadable, ...this.builds];
      const some = all.slice(offset, offset + limit);
      const [unreadable, builds] = [some.filter((b) => 'reason' in b), some.filter((b) => !('reason' in b))];
      return { builds, unreadable, count: all.length };
    });
    server.on('POST /api/builds/{id}/duplicate', ({ params }) => {
      const from = this.builds.find((b) => b.id === params.id)!;
      this.builds = [row(`${from.id}-copy`, `${from.name}, copy`), ...this.builds];
      return { id: `${from.id}-copy` };
    });
    server.on('DELETE /api/builds/{id}', ({ params }) => {
      this.binned = this.builds.filter((b) => b.id === params.id);
      this.builds = this.builds.filter((b) => b.id !== params.id);
      return new Response(null, { status: 204 });
    });
    server.on('POST /api/builds/{id}/restore', () => {
      this.builds = [...this.binned, ...this.builds];
      return { id: 'restored' };
    });
    server.on('GET /api/builds/{id}', ({ params }) => ({
      id: params.id,
      revision: 3,
      document: { name: this.builds.find((b) => b.id === params.id)!.name },
    }));
    server.on('PUT /api/builds/{id}', ({ params, body }) => {
      this.builds = this.builds.map((b) => (b.id === params.id ? { ...b, name: body.document.name } : b));
      return { id: params.id, revision: 4, document: body.document };
    });
  }
}

function row(id: string, name: string, more: object = {}): ListedBoard {
  return {
    id,
    name,
    stage: 'planned',
    updated_at: '2026-05-01T10:00:00Z',
    dangers: 0,
    stops: 0,
    next: null,
    side: { view: 'side', shapes: [], lines: [], texts: [], clashes: [], dimensions: [], parts: {} },
    headline: { outcomes: [], needs: [] },
    ...more,
  } as unknown as ListedBoard;
}

beforeEach(() => {
  opened.length = 0;
  notices.list = [];
  installRouter({
    navigate: (path) => opened.push(path),
    params: () => ({}),
    search: () => null,
    forgetSearch: () => undefined,
  });
});
const names = () =>
  screen.queryAllByTestId('board-listed').map((b) => textOf(within(b).getByRole('heading')));
async function boards(count: number, change: (boards: Boards) => void = () => undefined) {
  const boards = new Boards(count);
  change(boards);
  render(Page);
  await vi.waitFor(() => expect(server.to('GET /api/boards')).not.toEqual([]));
  if (count) await screen.findAllByTestId('board-listed');
  return boards;
}
async function more(name: string, item: string) {
  await user.click(screen.getByRole('button', { name: `More for ${name}` }));
  await user.click(await screen.findByRole('menuitem', { name: item }));
}

test('no boards says how to begin', async () => {
  await boards(0);
  expect(await screen.findByText('No boards yet.')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Start a board' }).getAttribute('href')).toBe('/new-board');
});

test('a board that cannot be read is named with the reason and its file, and hides no other', async () => {
  const reason = 'wheels: unknown key';
  const apart = { id: 'old', name: 'Old light', updated_at: '2026-05-01T10:00:00Z', reason };
  await boards(13, (boards) => (boards.unreadable = [apart]));
  const section = within(await screen.findByTestId('unreadable-board'));
  expect(section.getByText(/cannot be read: wheels: unknown key/)).toBeTruthy();
  const file = section.getByRole('link', { name: 'Download the file' });
  expect(file.getAttribute('href')).toBe('/api/builds/old/file');
  await user.click(screen.getByRole('button', { name: /Show more: 12 of 14 loaded/ }));
  await vi.waitFor(() => expect(names()).toHaveLength(13));
  expect(screen.queryByRole('button', { name: /Show more/ })).toBeNull();
});

test('each board says what is dangerous about it and what comes next', async () => {
  await boards(0, (boards) => {
    boards.builds = [
      row('a', 'Old light', { dangers: 2, stops: 1, next: { title: message('Cell count set to 5') } }),
      row('b', 'Hide round'),
    ];
  });
  const [first, second] = await screen.findAllByTestId('board-listed');
  expect(textOf(within(first!).getByTestId('grave'))).toBe('! 2 dangers, 1 stop');
  expect(textOf(within(first!).getByTestId('next-step'))).toBe('Next: Cell count set to 5');
  expect(within(second!).queryByTestId('grave')).toBeNull();
});

test('many boards come by the stretch, each once', async () => {
  await boards(30);
  expect(names()).toHaveLength(12);
  await user.click(screen.getByRole('button', { name: /Show more: 12 of 30/ }));
  await vi.waitFor(() => expect(names()).toHaveLength(24));
  await user.click(screen.getByRole('button', { name: /Show more: 24 of 30/ }));
  await vi.waitFor(() => expect(names()).toHaveLength(30));
  expect(new Set(names()).size).toBe(30);
  expect(screen.queryByRole('button', { name: /Show more/ })).toBeNull();
});

test('a board is duplicated, renamed and deleted, and a deletion is undone', async () => {
  await boards(1);
  await more('Board 0', 'Duplicate');
  await vi.waitFor(() => expect(names()).toEqual(['Board 0, copy', 'Board 0']));
  await more('Board 0, copy', 'Rename');
  const dialog = await screen.findByRole('dialog');
  const field = within(dialog).getByLabelText('Name of the board');
  await user.clear(field);
  await user.type(field, 'Second thoughts{Enter}');
  await vi.waitFor(() => expect(names()).toEqual(['Second thoughts', 'Board 0']));
  expect(server.to('PUT /api/builds/{id}')[0]!.body).toMatchObject({ revision: 3 });
  await more('Second thoughts', 'Delete');
  await vi.waitFor(() => expect(names()).toEqual(['Board 0']));
  notices.list.at(-1)!.action!.run();
  await vi.waitFor(() => expect(names()).toEqual(['Second thoughts', 'Board 0']));
});

test('without network nothing is changed, and that is said', async () => {
  await boards(1);
  server.offline = true;
  await more('Board 0', 'Duplicate');
  await vi.waitFor(() => expect(notices.list.at(-1)?.text).toContain('nothing was changed'));
  expect(names()).toEqual(['Board 0']);
});

test('two to four boards are set side by side; a fifth takes the place of the first', async () => {
  await boards(5);
  for (const name of ['Board 0', 'Board 1', 'Board 2', 'Board 3', 'Board 4'])
    await user.click(screen.getByRole('checkbox', { name: `Compare ${name}` }));
  const link = screen.getByRole('link', { name: 'Compare them' });
  expect(link.getAttribute('href')).toBe('/compare/b1,b2,b3,b4');
});

test('a file that is taken in opens its board', async () => {
  await boards(0);
  server.on('POST /api/builds/import', () => ({ id: 'made' }));
  await user.upload(
    screen.getByTestId('import'),
    new File(['{}'], 'board.json', { type: 'application/json' }),
  );
  await vi.waitFor(() => expect(opened).toEqual(['/builds/made']));
});

test.each([
  ['the file', 'is not JSON'],
  ['version', '3 is newer than this release reads'],
  ['parts.wheels.diameter_mm', '0.09 is outside 40 to 400; in metres?'],
])('a broken file names the field (%s) and the reason, and changes nothing', async (field, reason) => {
  await boards(0);
  const refusal = { message: 'The build file cannot be used.', faults: [{ field, reason }] };
  server.on('POST /api/builds/import', () => json(422, refusal));
  await user.upload(
    screen.getByTestId('import'),
    new File(['x'], 'board.json', { type: 'application/json' }),
  );
  const dialog = await screen.findByRole('dialog');
  expect(textOf(dialog)).toContain(field);
  expect(textOf(dialog)).toContain(reason);
  expect(textOf(dialog)).toContain('none of your boards was changed');
  expect(opened).toEqual([]);
});

test('without network the list of boards is as this device last saw it; a device that saw nothing can try again', async () => {
  const boards = new Boards(2);
  const first = render(Page);
  await screen.findAllByTestId('board-listed');
  first.unmount();
  server.offline = true;
  const second = render(Page);
  await vi.waitFor(() => expect(names()).toHaveLength(2));
  expect(textOf(screen.getByRole('status'))).toContain('as this device last loaded them');
  second.unmount();
  server.offline = false;
  boards.builds = [];
  const { writeCache } = await import('$lib/sync/device-cache');
  await writeCache('boards', undefined);
  server.offline = true;
  render(Page);
  const again = await screen.findByRole('button', { name: 'Try again' });
  server.offline = false;
  await user.click(again);
  expect(await screen.findByText('No boards yet.')).toBeTruthy();
});
