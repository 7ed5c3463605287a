import { api, type BuildFile, type ListLine, type PartsList, type Schemas } from '$lib/api/client';
import type { OpenBuild } from '$lib/build/build.svelte';
import { today } from '$lib/reader.svelte';
import { Query } from '$lib/sync/query.svelte';

export type State = ListLine['state'];

/** Lines under one heading: an order, what has no shop yet, the drawer, what is left over. */
export interface Group {
  id: string;
  title: string;
  /** Its place among the build's orders, if it stands there. */
  order: number | null;
  name: string | null;
  lines: ListLine[];
}

const PAUSE = 60;

/** The parts list of one build. */
export class PartsListPage {
  readonly asked: Query<BuildFile, PartsList>;

  constructor(readonly build: OpenBuild) {
    this.asked = new Query(
      () => build.file,
      (document, signal) => api.POST('/api/parts-list', { body: { document, board: build.id }, signal }),
      { pause: PAUSE, cacheKey: () => `parts-list:${build.id}` },
    );
  }

  get list(): PartsList | null {
    return this.asked.answer;
  }

  get faults(): Record<string, string> {
    return this.asked.faults;
  }

  /** Sets how a line stands; the day of it is noted where none is. */
  stand(lines: ListLine[], state: State): void {
    const changes: Record<string, unknown> = {};
    for (const line of lines) {
      const at = (key: string) => `${line.path}.${key}`;
      changes[at('owned')] = state === 'owned' ? true : null;
      if (state === 'owned') continue;
      changes[at('purchase.status')] = state;
      const here = ['arrived', 'replaced', 'faulty'].includes(state);
      changes[at('purchase.arrived_on')] = here ? (line.arrived_on ?? today()) : null;
      const i = this.orderIndex(line.order);
      if (state === 'ordered' && i >= 0 && !this.build.file.orders?.[i]?.ordered_on)
        changes[`orders.${i}.ordered_on`] = today();
    }
    this.build.change(changes);
  }

  /** Puts a line under an order; a new name is a new order. */
  putUnder(line: ListLine, name: string | null): void {
    const changes: Record<string, unknown> = { [`${line.path}.purchase.order`]: name };
    if (name && this.orderIndex(name) < 0)
      changes[`orders.${this.build.file.orders?.length ?? 0}`] = { name };
    this.build.change(changes);
  }

  /** Another name for an order, on every line under it. */
  rename(from: string, to: string): void {
    const changes: Record<string, unknown> = { [`orders.${this.ensureIndex(from)}.name`]: to };
    for (const line of this.list?.lines ?? [])
      if (line.order === from) changes[`${line.path}.purchase.order`] = to;
    this.build.change(changes);
  }

  /** Where an order stands in the file; -1 where only lines name it. */
  orderIndex(name: string | null | undefined): number {
    return name ? (this.build.file.orders ?? []).findIndex((o) => o.name === name) : -1;
  }

  /** The place of an order's terms, made where there are none yet. */
  ensureIndex(name: string): number {
    const found = this.orderIndex(name);
    if (found >= 0) return found;
    const end = this.build.file.orders?.length ?? 0;
    this.build.set(`orders.${end}`, { name });
    return end;
  }

  /** A line as it is entered now: how it stands follows the finger, what it comes to follows the server. */
  private entered(line: ListLine): ListLine {
    const part = this.build.value(line.path) as Schemas['Extra'] | undefined;
    if (!part) return line;
    const order = part.owned ? null : (part.purchase?.order ?? null);
    const said: State = part.owned ? 'owned' : (part.purchase?.status ?? 'to_order');
    return { ...line, order, state: said === 'ordered' && line.state === 'late' ? 'late' : said };
  }

  get groups(): Group[] {
    const lines = (this.list?.lines ?? []).map((l) => this.entered(l));
    const onBoard = lines.filter((l) => !l.path.startsWith('left_over'));
    const names = [
      ...new Set([
        ...(this.build.file.orders ?? []).map((o) => o.name),
        ...onBoard.flatMap((l) => (l.order ? [l.order] : [])),
      ]),
    ];
    const groups: Group[] = names.map((name) => ({
      id: `order-${name}`,
      title: name,
      order: this.orderIndex(name),
      name,
      lines: onBoard.filter((l) => l.order === name),
    }));
    const rest = (id: string, title: string, found: ListLine[]) => {
      if (found.length) groups.push({ id, title, order: null, name: null, lines: found });
    };
    rest(
      'none',
      names.length ? 'No shop yet' : 'Everything on the board',
      onBoard.filter((l) => !l.order && l.state !== 'owned'),
    );
    rest(
      'drawer',
      'Already owned',
      onBoard.filter((l) => l.state === 'owned'),
    );
    rest(
      'left',
      'Bought, and no longer on the board',
      lines.filter((l) => l.path.startsWith('left_over')),
    );
    return groups;
  }
}
