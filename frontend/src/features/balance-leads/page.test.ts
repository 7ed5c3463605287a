import { expect, test, vi } from 'vitest';
import type { OpenBuild } from '$lib/build/build.svelte';
import OnBoard from '../../testing/OnBoard.svelte';
import { openBuild } from '../../testing/build.svelte';
import { render, screen, textOf, userEvent } from '../../testing/component';
import { server } from '../../testing/server';
import Page from './Page.svelte';

const user = userEvent.setup();
const SERIES = 4;
const said = (text: string) => ({ text, template: text, values: {} });

/** How the core judges readings of a sound pack at 4 V a group: a reading that is half a volt off stops it. */
function judged(readings: (number | null)[]) {
  const leads = Array.from({ length: SERIES + 1 }, (_, lead) => {
    const read = readings[lead] ?? null;
    const verdict = read === null ? 'open' : Math.abs(read - 4 * lead) < 0.5 ? 'right' : 'wrong';
    return { lead, expected_v: 4 * lead, group_v: read === null ? null : 4, verdict };
  });
  const wrong = leads.find((t) => t.verdict === 'wrong');
  const open = leads.find((t) => t.verdict === 'open');
  return {
    report: {
      series: SERIES,
      cell_v: 4,
      charge_pct: 60,
      leads,
      next: wrong ? wrong.lead : (open?.lead ?? null),
      stop: wrong?.lead ?? null,
      done: !wrong && !open,
      last_word: said(wrong ? `Lead ${wrong.lead} is not where it belongs.` : 'Right so far.'),
      meanings: wrong
        ? [
            {
              kind: 'swapped',
              title: 'Two wires are swapped',
              message: said('They are.'),
              remedy: said('Swap them.'),
            },
          ]
        : [],
    },
  };
}

async function opened(readings: (number | null)[] = []): Promise<OpenBuild> {
  server.on('POST /api/balance-leads', ({ body }) =>
    judged(body.document.pack_assembly?.balance_leads?.readings ?? []),
  );
  const build = openBuild({
    pack_assembly: { balance_leads: { readings } },
    parts: { pack: { series: SERIES } },
  });
  render(OnBoard, { build, page: Page });
  await screen.findByTestId('leads');
  return build;
}
const reading = (lead: number) => screen.findByLabelText<HTMLInputElement>(`Reading of lead ${lead}`);
const readings = (build: OpenBuild) => build.file.pack_assembly?.balance_leads?.readings;
const verdicts = () => screen.getAllByRole('listitem').flatMap((li) => li.dataset.verdict ?? []);

test('one lead after the other is read with Enter alone, to the end', async () => {
  const build = await opened();
  for (let lead = 0; lead <= SERIES; lead++) await user.type(await reading(lead), `${4 * lead}{Enter}`);
  expect(await screen.findByTestId('leads-done')).toBeTruthy();
  expect(readings(build)).toEqual([0, 4, 8, 12, 16]);
  expect(verdicts()).toEqual(Array(SERIES + 1).fill('right'));
});

test('a wrong lead stops the reading and says what it means and what to do', async () => {
  await opened();
  await user.type(await reading(0), '0{Enter}');
  await user.type(await reading(1), '8{Enter}');
  const stop = await screen.findByTestId('stop');
  expect(textOf(stop)).toContain('Lead 1 is not where it belongs.');
  expect(textOf(stop)).toContain('Two wires are swapped');
  expect(textOf(stop)).toContain('Swap them.');
  expect(stop.getAttribute('role')).toBe('alert');
});

test.each([
  ['', 'what the meter shows'],
  ['four', 'Enter a number'],
  ['4 kg', 'not a unit'],
])('“%s” is no reading', async (typed, reason) => {
  const build = await opened();
  const field = await reading(0);
  if (typed) await user.type(field, typed);
  await user.click(screen.getByRole('button', { name: 'Enter' }));
  expect(textOf(screen.getByRole('alert'))).toContain(reason);
  expect(readings(build)).toEqual([]);
});

test('a lead that was read is read once more by pressing it', async () => {
  const build = await opened([0, 4, 8]);
  await reading(3);
  await user.click(document.querySelector('[data-lead="1"] button')!);
  const field = await reading(1);
  expect(field.value).toBe('4');
  await user.clear(field);
  await user.type(field, '4100 mV{Enter}');
  expect(readings(build)).toEqual([0, 4.1, 8]);
  expect(await reading(3)).toBeTruthy();
});

test('all readings are put away as one step that can be undone', async () => {
  const build = await opened([0, 4, 8]);
  await user.click(screen.getByRole('button', { name: 'Start again' }));
  expect(readings(build) ?? null).toBeNull();
  build.undo();
  expect(readings(build)).toEqual([0, 4, 8]);
});

test('without network readings are kept and not judged, and the plug stays out', async () => {
  const build = await opened();
  await user.type(await reading(0), '0{Enter}');
  await reading(1);
  server.offline = true;
  await user.type(await reading(1), '4{Enter}');
  await vi.waitFor(() => expect(textOf(screen.getByRole('status'))).toContain('keep the plug out'));
  await user.type(await reading(2), '8{Enter}');
  expect(readings(build)).toEqual([0, 4, 8]);
});

test('without a pack the page says what it needs', async () => {
  server.on('POST /api/balance-leads', () => ({ report: null }));
  render(OnBoard, { build: openBuild(), page: Page });
  expect(await screen.findByText(/how many cells are in series/)).toBeTruthy();
});
