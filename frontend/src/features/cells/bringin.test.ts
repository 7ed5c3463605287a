import { expect, test, vi } from 'vitest';
import { inComponent, openBuild } from '../../testing/build.svelte';
import { render, screen, textOf, userEvent } from '../../testing/component';
import { json, server } from '../../testing/server';
import BringIn from './BringIn.svelte';
import { CellsPage } from './cells.svelte';

const user = userEvent.setup();
const HEAD = 'id,capacity_ah';

/** The core's reading of a table: a capacity that is no number is a broken row. */
function reading({ body }: { body: { text: string } }) {
  const rows = body.text
    .split('\n')
    .filter((line) => line && !line.startsWith('id,'))
    .map((text, i) => {
      const [id, capacity] = text.split(',');
      const value = Number(capacity);
      return Number.isFinite(value)
        ? { line: i + 2, text, cell: { id, capacity_ah: value }, faults: [] }
        : { line: i + 2, text, cell: null, faults: [`capacity_ah: “${capacity}” is no number`] };
    });
  return { rows, refused: '' };
}

function opened(cells: object[] = []) {
  server.on('POST /api/cells', () => ({ report: null }));
  server.on('POST /api/cells/read', reading as never);
  const build = openBuild({ pack_assembly: { cells } });
  const { made: page } = inComponent(() => new CellsPage(build));
  const onclose = vi.fn();
  render(BringIn, { page, open: true, onclose });
  return { page, onclose };
}
const box = () => screen.getByTestId<HTMLTextAreaElement>('cells-text');
async function paste(text: string) {
  await user.click(box());
  await user.paste(text);
}

test('every row is shown before any is taken, the broken ones first with their reason', async () => {
  opened();
  await paste(`${HEAD}\na1,2.41\na2,two and a half\na3,2.38`);
  await vi.waitFor(() => expect(textOf(screen.getByTestId('cells-read'))).toBe('2 good rows, 1 to correct.'));
  const rows = screen.getAllByTestId('cell-row').map(textOf);
  expect(rows[0]).toContain('“two and a half” is no number');
  expect(rows[1]).toContain('2.41 Ah');
});

test('the good rows are taken; what is to mend stays where it was typed, under its head', async () => {
  const { page, onclose } = opened([{ id: 'old', capacity_ah: 2 }]);
  await paste(`${HEAD}\na1,2.41\na2,two and a half`);
  await user.click(await screen.findByRole('button', { name: 'Import 1' }));
  expect(page.cells.map((c) => c.id)).toEqual(['old', 'a1']);
  expect(box().value).toBe(`${HEAD}\na2,two and a half`);
  expect(onclose).not.toHaveBeenCalled();
});

test('when all rows are good the dialog closes, and one undo takes the whole table back', async () => {
  const { page, onclose } = opened();
  await paste(`${HEAD}\na1,2.41\na2,2.39`);
  await user.click(await screen.findByRole('button', { name: 'Import 2' }));
  expect(onclose).toHaveBeenCalledOnce();
  page.build.undo();
  expect(page.cells).toEqual([]);
});

test('a table that cannot be read says why, and without network what was pasted stays', async () => {
  opened();
  server.on('POST /api/cells/read', () =>
    json(422, { message: 'That is a picture, not a table.', faults: [] }),
  );
  await paste('\u0089PNG');
  expect(textOf(await screen.findByTestId('cells-refused'))).toBe('That is a picture, not a table.');
  server.offline = true;
  await user.type(box(), 'x');
  await vi.waitFor(() => expect(document.body.textContent).toContain('what you pasted is kept here'));
  expect(box().value).toContain('PNG');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Import( \d+)?$/ }).disabled).toBe(true);
});
