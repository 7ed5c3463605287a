<script module lang="ts">
  const UNITS: Record<string, string[]> = {
    time: ['s', 'ms', 'min', 'clock'],
    height: ['m', 'ft'],
    speed: ['km/h', 'm/s', 'mph'],
    distance: ['m', 'km', 'miles', 'ft'],
    power: ['W', 'kW'],
    voltage: ['V', 'mV'],
    current: ['A', 'mA'],
    motor_c: ['°C', '°F'],
    board_c: ['°C', '°F'],
  };
</script>

<!-- Import tracks from files, several at once: read by a worker, what was found in them shown, and accepted as rides. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import { api, asItIs, type Schemas } from '$lib/api/client';
  import { dayText, reader } from '$lib/reader.svelte';
  import { Job, whyNot } from '$lib/sync/job.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { written } from '$lib/units';
  import { runText } from './words';
  import type { Rides } from './rides.svelte';

  let { rides, onkept }: { rides: Rides; onkept: (id: string) => void } = $props();
  type Track = Schemas['TrackOut'];
  interface Piece {
    file: File;
    job: Job | null;
    found: Track | null;
    why: string;
    /** Which of the runs are believed. */
    ticked: boolean[];
    mapping: Record<string, { name: string; unit: string }>;
  }
  let pieces = $state.raw<Piece[]>([]);
  let over = $state(false);
  let input = $state<HTMLInputElement>();

  const set = (file: File, more: Partial<Piece>) =>
    (pieces = pieces.map((p) => (p.file === file ? { ...p, ...more } : p)));

  async function bring(files: FileList | File[]): Promise<void> {
    for (const file of [...files].slice(0, 20)) {
      pieces = [{ file, job: null, found: null, why: '', ticked: [], mapping: {} }, ...pieces];
      void read(file, '');
    }
  }

  async function read(file: File, mapping: string): Promise<void> {
    if (file.size > 40_000_000) return void set(file, { why: 'More than 40 MB: too large for a track.' });
    const head = await file.slice(0, 400).text();
    if (head.includes('sand-pocket/rides')) return wholeRides(file);
    const job = new Job('track', () =>
      api.POST('/api/builds/{id}/rides/tracks', {
        params: { path: { id: rides.build.id }, query: { name: file.name.slice(0, 120), mapping } },
        ...asItIs(file, 'application/octet-stream'),
      }),
    );
    await waitFor(file, job);
  }

  async function waitFor(file: File, job: Job): Promise<void> {
    set(file, { job, why: '' });
    const done = await job.run();
    if (!done) return void set(file, { job: null, why: whyNot(job) });
    const { data: made } = await api
      .GET('/api/track-imports/{job}', { params: { path: { job: done.id } } })
      .catch(() => ({ data: undefined }));
    if (!made) return void set(file, { job: null, why: 'The file is no longer here. Import it again.' });
    set(file, {
      job: null,
      found: made,
      ticked: (made.ride?.runs ?? []).map(() => true),
      mapping: (made.table?.mapping ?? {}) as Piece['mapping'],
    });
  }

  const runsOf = (found: Track) => (found.joined ? [] : (found.ride?.runs ?? []));

  /** A board like this one, with a truth that nobody knows, ridden by the simulated controller. */
  async function simulated(): Promise<void> {
    const file = new File([], 'The simulated controller’s log');
    pieces = [{ file, job: null, found: null, why: '', ticked: [], mapping: {} }, ...pieces];
    await waitFor(
      file,
      new Job('ride', () =>
        api.POST('/api/builds/{id}/rides/simulated', { params: { path: { id: rides.build.id } } }),
      ),
    );
  }

  async function wholeRides(file: File): Promise<void> {
    const { data, error } = await api.POST('/api/builds/{id}/rides/file', {
      params: { path: { id: rides.build.id } },
      ...asItIs(file, 'application/octet-stream'),
    });
    const why = (error as Schemas['FaultsOut'] | undefined)?.faults
      ?.map((f) => `${f.field}: ${f.reason}`)
      .join('; ');
    if (data) rides.take(data);
    if (data?.refused?.length)
      set(file, {
        why: `${plural(data.refused.length, ['# ride was not imported', '# rides were not imported'])}: ${data.refused[0]!.faults[0]?.reason}`,
      });
    else if (data) pieces = pieces.filter((p) => p.file !== file);
    else set(file, { why: why || 'The file was not taken.' });
  }

  function accept(piece: Piece): void {
    const { ride, id } = piece.found!;
    const runs = (ride!.runs ?? []).filter((_, i) => piece.ticked[i]);
    onkept(rides.keep({ ...ride, id: undefined, runs }, id ?? undefined));
    pieces = pieces.filter((p) => p.file !== piece.file);
  }
  const COLUMNS = [
    'time',
    'lat',
    'lon',
    'height',
    'speed',
    'distance',
    'power',
    'voltage',
    'current',
    'motor_c',
    'board_c',
  ];
  const NAMES: Record<string, string> = {
    lat: 'latitude',
    lon: 'longitude',
    motor_c: 'motor temperature',
    board_c: 'controller temperature',
  };
  const say = (v: number, q: string) => written(v, q, reader.units);
</script>

<section aria-label="Import tracks" class="mt-4">
  <div
    class={['rounded border border-dashed px-3 py-3', over ? 'border-acting bg-chosen' : 'border-rule']}
    role="group"
    aria-label="Files"
    ondragover={(e) => {
      e.preventDefault();
      over = true;
    }}
    ondragleave={() => (over = false)}
    ondrop={(e) => {
      e.preventDefault();
      over = false;
      if (e.dataTransfer?.files.length) void bring(e.dataTransfer.files);
    }}
  >
    <input
      bind:this={input}
      type="file"
      multiple
      accept=".gpx,.csv,.json,.txt,application/gpx+xml,text/csv,application/json"
      class="hidden"
      aria-label="Files of tracks"
      data-testid="track-file"
      onchange={(e) => {
        if (e.currentTarget.files) void bring(e.currentTarget.files);
        e.currentTarget.value = '';
      }}
    />
    <p>
      <Button class="mr-3 min-h-[44px]" onclick={() => input?.click()}>Import a track</Button>
      <span class="text-sm text-ink2"
        >GPX from a phone, CSV from a controller, or rides as JSON; several at once.</span
      >
      <button class="link min-h-[44px] text-sm" onclick={simulated}>Or simulate a ride</button>
    </p>
  </div>
  {#each pieces as piece (piece.file)}
    <article
      class="mt-2 rounded border border-line bg-sheet p-3"
      data-testid="brought"
      aria-label={piece.file.name}
    >
      <p class="flex items-baseline gap-3">
        <b class="min-w-0 truncate">{piece.file.name}</b>
        <button
          class="link ml-auto min-h-[44px] text-sm"
          onclick={() => {
            piece.job?.stop();
            pieces = pieces.filter((p) => p !== piece);
          }}>{piece.job ? 'Stop' : 'Discard'}</button
        >
      </p>
      {#if piece.job}
        <p class="remark text-sm" role="status">Reading…</p>
      {:else if piece.why}
        <p class="text-short" role="alert">{piece.why}</p>
      {:else if piece.found?.table && !piece.found.id}
        <p class="text-sm text-short" role="alert">{piece.found.fault}.</p>
        <p class="mt-1 text-sm">
          What is in each column? This is remembered for tables with the same header.
        </p>
        <div class="mt-1 max-w-full overflow-x-auto text-xs">
          <table class="border-collapse">
            <thead
              ><tr
                >{#each piece.found.table.head as h, i (i)}<th
                    class="border border-line px-2 py-0.5 text-left">{h}</th
                  >{/each}</tr
              ></thead
            >
            <tbody
              >{#each piece.found.table.rows.slice(0, 3) as row, i (i)}<tr
                  >{#each row as cell, j (j)}<td class="border border-line px-2 py-0.5">{cell}</td>{/each}</tr
                >{/each}</tbody
            >
          </table>
        </div>
        <form
          onsubmit={(e) => {
            e.preventDefault();
            void read(piece.file, JSON.stringify(piece.mapping));
          }}
        >
          <div class="mt-2 grid grid-cols-2 gap-2 sm:grid-cols-4">
            {#each COLUMNS as column (column)}
              <label class="text-xs text-ink2"
                >{NAMES[column] ?? column}<select
                  class="entry block text-sm text-ink"
                  value={piece.mapping[column]?.name ?? ''}
                  onchange={(e) => {
                    const mapping = { ...piece.mapping };
                    if (e.currentTarget.value)
                      mapping[column] = {
                        name: e.currentTarget.value,
                        unit: mapping[column]?.unit ?? UNITS[column]?.[0] ?? '',
                      };
                    else delete mapping[column];
                    set(piece.file, { mapping });
                  }}
                >
                  <option value="">–</option>
                  {#each piece.found.table.head as h, i (i)}<option>{h}</option>{/each}
                </select>{#if piece.mapping[column] && UNITS[column]}<select
                    class="entry block text-sm text-ink"
                    aria-label={`Unit of ${NAMES[column] ?? column}`}
                    value={piece.mapping[column]!.unit}
                    onchange={(e) =>
                      set(piece.file, {
                        mapping: {
                          ...piece.mapping,
                          [column]: { name: piece.mapping[column]!.name, unit: e.currentTarget.value },
                        },
                      })}
                  >
                    {#each UNITS[column] as unit (unit)}<option>{unit}</option>{/each}
                  </select>{/if}</label
              >
            {/each}
          </div>
          <Button main class="mt-2 min-h-[44px]">Import it</Button>
        </form>
      {:else if piece.found?.ride}
        {@const ride = piece.found.ride}
        <p class="mt-1">
          {dayText(ride.day)}: {say(ride.way?.distance_km ?? 0, 'distance')}{ride.way?.ascent_m != null
            ? `, ${say(ride.way.ascent_m, 'way')} climbed`
            : ''}{piece.found.summary?.fastest_kmh
            ? `, ${say(piece.found.summary.fastest_kmh, 'speed')} at the most`
            : ''}{ride.way?.stops ? `, ${plural(ride.way.stops, ['# stop', '# stops'])}` : ''}.
          {#if piece.found.again}<b
              >This file was imported before{piece.found.ridden ? ', with its ride' : ''}.</b
            >{/if}
        </p>
        {#if Object.keys(piece.found.summary?.dropped ?? {}).length}
          <p class="text-sm text-ink2">
            Left out: {Object.entries(piece.found.summary!.dropped)
              .map(([why, count]) => `${plural(count, ['# point', '# points'])} ${why}`)
              .join(', ')}.
          </p>
        {/if}
        {#if rides.fastest && (piece.found.summary?.fastest_kmh ?? 0) > rides.fastest}
          <p class="text-sm text-short" role="alert" data-testid="too-fast">
            Faster than this board can go ({say(rides.fastest, 'speed')}): a bicycle’s or a car’s track?
          </p>
        {/if}
        {#each piece.found.rolled ?? [] as r, i (i)}
          <p class="text-sm" data-testid="rolled">
            Rolled out: rolling resistance {r.crr.toFixed(4)} ± {r.crr_error.toFixed(4)}, drag area {say(
              r.cda_m2,
              'area',
            )} ± {say(r.cda_error_m2, 'area')}, with a small slope and breeze included.
          </p>
        {/each}
        {#each runsOf(piece.found) as run, i (i)}
          <label class="flex min-h-[44px] items-center gap-2"
            ><input
              type="checkbox"
              checked={piece.ticked[i]}
              onchange={() => set(piece.file, { ticked: piece.ticked.map((t, j) => (i === j ? !t : t)) })}
            />
            Found: {runText(run)}</label
          >
        {/each}
        {#if piece.found.joined && piece.found.ridden}
          <p class="text-holds" data-testid="joined">
            ✓ Recorded during an existing ride: joined to its track by time.
            <button class="link min-h-[44px]" onclick={() => onkept(piece.found!.ridden!)}
              >Open the ride</button
            >
          </p>
        {:else}
          <Button main class="mt-2 min-h-[44px]" onclick={() => accept(piece)}>Save as a ride</Button>
        {/if}
      {/if}
    </article>
  {/each}
</section>
