import createClient from 'openapi-fetch';
import { reader } from '$lib/reader.svelte';
import { withHeadings } from './language';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
/** A board, and what happened to it. */
export type BuildFile = Schemas['BuildFile'];
/** What a board is and what is asked of it; everything that a prediction reads. */
export type BoardDocument = Schemas['Build'];
export type BuildOut = Schemas['BuildOut'];
export type ListedBoard = Schemas['ListedBoard'];
export type Prediction = Schemas['PredictionOut'];
export type Moment = Schemas['Moment'];
export type Why = Schemas['Why'];
export type Curve = Schemas['Plot'];
export type Outcome = Schemas['Outcome'];
export type Message = Schemas['Message'];
export type Finding = Schemas['Finding'];
export type View = NonNullable<Schemas['PredictIn']['view']>;
export type Proposal = Schemas['Proposal'];
export type Candidate = Schemas['CandidateOut'];
export type ControllerSettings = Schemas['ControllerSettings'];
export type SettingLine = Schemas['SettingLine'];
export type SettingsRecord = Schemas['SettingsRecordOut'];
export type PartsList = Schemas['PartsList'];
export type ListLine = Schemas['ListLine'];
export type Differences = Schemas['Differences'];
export type PartDetail = Schemas['PartDetail'];
export type Session = Schemas['SessionOut'];
export type Preferences = Schemas['Preferences'];
export type Faults = Schemas['FaultsOut'];

function csrfToken(): string {
  return document.cookie.match(/(?:^|; )csrftoken=([^;]*)/)?.[1] ?? '';
}

/** Refused for the moment: there is too much at once, and it says that it is over in a second or two. */
function isSoon({ status, headers }: Response): boolean {
  return (status === 429 || status === 503) && Number(headers.get('Retry-After') ?? Infinity) <= 2;
}

const onceMore = new Map<string, Request>();

/** The API with types from its own document; every request carries the page's CSRF token. */
export const api = createClient<paths>({ baseUrl: '/', credentials: 'same-origin' });
api.use({
  onRequest({ request, id }) {
    request.headers.set('X-CSRFToken', csrfToken());
    request.headers.set('X-Time-Zone', reader.zone);
    if (!request.body || request.headers.get('Content-Type') === 'application/json')
      onceMore.set(id, request.clone());
    return request;
  },
  // Too much at once is over in a moment, and nothing was done: it is asked again, a few times.
  async onResponse({ request, response, id }) {
    const again = onceMore.get(id);
    onceMore.delete(id);
    let answer = response;
    for (let wait = 400; again && isSoon(answer) && wait < 4000; wait *= 1.6) {
      await new Promise((resolve) => setTimeout(resolve, wait * (1 + Math.random())));
      request.signal.throwIfAborted();
      answer = await fetch(again.clone());
    }
    const isJson = answer.headers.get('Content-Type')?.includes('json');
    return import.meta.env.SAND_POCKET_LANGUAGE && isJson
      ? new Response(JSON.stringify(withHeadings(await answer.json())), answer)
      : answer;
  },
  onError({ id }) {
    onceMore.delete(id);
  },
});

/** Sends a save that outlives the page, when the page is left with something unsent. */
export function sendParting(id: string, body: Schemas['SaveIn']): void {
  void fetch(`/api/builds/${id}`, {
    method: 'PUT',
    keepalive: true,
    headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken() },
    body: JSON.stringify(body),
  }).catch(() => undefined);
}

/** The build file's address, for taking it away. */
export function fileAddress(id: string): string {
  return `/api/builds/${id}/file`;
}

/** A file as the body of a request, sent as it is for the server to judge. */
export function asItIs(file: Blob, type: string) {
  return {
    // The API's description knows bodies of JSON and of text only.
    body: file as never,
    headers: { 'Content-Type': type },
    bodySerializer: () => file,
  };
}

/** What the server says of a conflict: it answers 409 with what it has. */
export const conflictOf = <T>(error: T | Faults): T => error as T;

export const UNREACHABLE: Faults = {
  message: 'The server cannot be reached; nothing was changed.',
  faults: [],
};

/** A build file into the workshop. */
export async function importFile(file: File): Promise<{ build?: BuildOut; faults?: Faults }> {
  const { data, error } = await api
    .POST('/api/builds/import', { ...asItIs(file, 'application/json') })
    .catch(() => ({ data: undefined, error: UNREACHABLE }));
  return data ? { build: data } : { faults: faultsOf(error) };
}

/** An archive beside what is there; what came in, or why nothing did. */
export async function importArchive(
  file: File,
): Promise<{ brought?: Schemas['BroughtOut']; faults?: Faults }> {
  const { data, error } = await api
    .POST('/api/archive', { ...asItIs(file, 'application/zip') })
    .catch(() => ({ data: undefined, error: UNREACHABLE }));
  return data ? { brought: data } : { faults: faultsOf(error) };
}

/** A file of parts, checked or taken in; the server judges every row. */
export async function importParts(
  file: File,
  take: boolean,
): Promise<{ offer?: Schemas['ImportOut']; faults?: Faults }> {
  const { data, error } = await api
    .POST('/api/parts/import', { params: { query: { take } }, ...asItIs(file, 'text/plain') })
    .catch(() => ({ data: undefined, error: UNREACHABLE }));
  return data ? { offer: data } : { faults: faultsOf(error) };
}

/** Sends a photo or a file to hang on a sheet; a worker looks at it. */
export function attach(id: string, number: number, file: File) {
  return api.POST('/api/builds/{id}/controller-settings/{number}/files', {
    params: { path: { id, number }, query: { name: file.name } },
    ...asItIs(file, 'application/octet-stream'),
  });
}

/** Faults of an answer that is not as hoped, whatever shape it has. */
export function faultsOf(error: unknown): Faults {
  if (error && typeof error === 'object' && 'message' in error) return error as Faults;
  return { message: 'The server could not carry this out.', faults: [] };
}
