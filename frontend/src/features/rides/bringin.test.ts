import { beforeEach, expect, test, vi } from 'vitest';
import { reader } from '$lib/reader.svelte';
import { inComponent, openBuild } from '../../testing/build.svelte';
import { render, screen, textOf, userEvent, within } from '../../testing/component';
import { json, server } from '../../testing/server';
import BringIn from './BringIn.svelte';
import { Rides } from './rides.svelte';

const user = userEvent.setup();
const RUN = { kind: 'speed', kmh: [34.2, 33.1] };
const FOUND = {
  id: 'track-1',
  joined: false,
  fault: '',
  remarks: [],
  table: null,
  ride: { day: '2026-05-02', way: { distance_km: 12.4 }, runs: [RUN, { ...RUN, kmh: [31] }] },
};

function opened() {
  server.on('GET /api/builds/{id}/rides', () => ({ rides: [], points: [] }));
  server.on('GET /api/builds/{id}/calibration', () => ({ outcomes: [], of: [], judged: [] }));
  server.on('POST /api/builds/{id}/rides', ({ body }) => ({
    rides: body.rides.map((r: { ride: { id: string } }) => ({ ...r, id: r.ride.id })),
    points: [],
    refused: [],
  }));
  server.on('POST /api/builds/{id}/rides/tracks', () => ({ id: 'job', state: 'waiting', progress: 0 }));
  server.on('GET /api/jobs/{id}', () => ({ id: 'job', state: 'done', progress: 1, message: '', faults: [] }));
  server.on('GET /api/track-imports/{job}', () => FOUND);
  const { made: rides } = inComponent(() => new Rides(openBuild()));
  const onkept = vi.fn();
  render(BringIn, { rides, onkept });
  return { rides, onkept };
}
const bring = (...list: [string, string][]) =>
  user.upload(
    screen.getByTestId('track-file'),
    list.map(([name, text]) => new File([text], name)),
  );
const piece = (name: string) => screen.findByRole('article', { name });

beforeEach(() => (reader.units = {}));

test('a track is read by a worker, shown with what was found, and kept as a ride with the runs that are believed', async () => {
  const { rides, onkept } = opened();
  await bring(['wall.gpx', '<gpx/>']);
  const wall = await piece('wall.gpx');
  const runs = await vi.waitFor(() => {
    const boxes = within(wall).getAllByRole('checkbox');
    expect(boxes).toHaveLength(2);
    return boxes;
  }, 5000);
  await user.click(runs[1]!);
  await user.click(within(wall).getByRole('button', { name: 'Save as a ride' }));
  expect(onkept).toHaveBeenCalledOnce();
  await vi.waitFor(() => expect(server.to('POST /api/builds/{id}/rides')).toHaveLength(1));
  const [sent] = server.to('POST /api/builds/{id}/rides')[0]!.body.rides;
  expect([sent.ride.runs, sent.track]).toEqual([[RUN], 'track-1']);
  expect(rides.lines).toHaveLength(1);
  expect(screen.queryByRole('article', { name: 'wall.gpx' })).toBeNull();
});

test('of several files one that cannot be read says why, and the others go on', async () => {
  opened();
  server.on('POST /api/builds/{id}/rides/tracks', ({ query }) =>
    query.get('name') === 'poem.gpx'
      ? json(422, { message: 'That is no track.', faults: [] })
      : { id: 'job', state: 'waiting', progress: 0 },
  );
  await bring(['wall.gpx', '<gpx/>'], ['poem.gpx', '<gpx>no end']);
  expect(textOf(await within(await piece('poem.gpx')).findByRole('alert'))).toBe('That is no track.');
  await within(await piece('wall.gpx')).findByRole('button', { name: 'Save as a ride' }, { timeout: 5000 });
});

test('a file that is too large is refused on the device', async () => {
  opened();
  const file = new File(['x'], 'long.gpx');
  Object.defineProperty(file, 'size', { value: 41_000_000 });
  await user.upload(screen.getByTestId('track-file'), file);
  expect(textOf(await within(await piece('long.gpx')).findByRole('alert'))).toContain('40 MB');
  expect(server.to('POST /api/builds/{id}/rides/tracks')).toEqual([]);
});

test('a file of rides comes in whole, or says which ride is wrong', async () => {
  const { rides } = opened();
  const text = '{"format": "sand-pocket/rides", "rides": []}';
  server.on('POST /api/builds/{id}/rides/file', () => ({
    rides: [{ id: 'r1', ride: { id: 'r1', day: '2026-05-02', way: { distance_km: 5 } } }],
    points: [],
    refused: [],
  }));
  await bring(['season.json', text]);
  await vi.waitFor(() => expect(rides.lines).toHaveLength(1));
  expect(screen.queryByRole('article', { name: 'season.json' })).toBeNull();
  const faults = [{ field: 'rides.3.day', reason: 'is no day' }];
  server.on('POST /api/builds/{id}/rides/file', () => json(422, { message: 'No.', faults }));
  await bring(['bad.json', text]);
  expect(textOf(await within(await piece('bad.json')).findByRole('alert'))).toBe('rides.3.day: is no day');
});

test('what was read and is gone at the server is asked for once more', async () => {
  opened();
  server.on('GET /api/track-imports/{job}', () => json(404, { message: 'Not here.', faults: [] }));
  await bring(['wall.gpx', '<gpx/>']);
  const alert = await within(await piece('wall.gpx')).findByRole('alert', {}, { timeout: 5000 });
  expect(textOf(alert)).toContain('Import it again');
});
