import createClient from 'openapi-fetch';
import { reader } from '$lib/reader.svelte';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type BuildFile = Schemas['Build'];
export type BuildOut = Schemas['BuildOut'];
export type ShelfBuild = Schemas['ShelfBuild'];
export type Prediction = Schemas['PredictionOut'];
export type Moment = Schemas['Moment'];
export type Why = Schemas['Why'];
export type Curve = Schemas['Plot'];
export type Promised = Schemas['Promise'];
export type Saying = Schemas['Saying'];
export type Finding = Schemas['Finding'];
export type View = NonNullable<Schemas['PredictIn']['view']>;
export type Proposal = Schemas['Proposal'];
export type Candidate = Schemas['CandidateOut'];
export type Sheet = Schemas['Sheet'];
export type SheetLine = Schemas['SheetLine'];
export type SetSheet = Schemas['SetSheetOut'];
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

/** The API with types from its own document; every request carries the page's CSRF token. */
export const api = createClient<paths>({ baseUrl: '/', credentials: 'same-origin' });
api.use({
  onRequest({ request }) {
    request.headers.set('X-CSRFToken', csrfToken());
    request.headers.set('X-Time-Zone', reader.zone);
    return request;
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

/** A file as it is, for the server to judge. */
export async function importFile(file: File): Promise<{ build?: BuildOut; faults?: Faults }> {
  const answer = await fetch('/api/builds/import', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken() },
    body: file,
  });
  const body = await answer
    .json()
    .catch(() => ({ message: `The server answered ${answer.status}.`, faults: [] }));
  return answer.ok ? { build: body } : { faults: body };
}

/** A file of parts, looked at or taken in; the server judges every row. */
export async function importParts(
  file: File,
  take: boolean,
): Promise<{ offer?: Schemas['ImportOut']; faults?: Faults }> {
  try {
    const answer = await fetch(`/api/parts/import?take=${take}`, {
      method: 'POST',
      headers: { 'Content-Type': 'text/plain', 'X-CSRFToken': csrfToken() },
      body: file,
    });
    const body = await answer.json();
    return answer.ok ? { offer: body } : { faults: body };
  } catch {
    return { faults: { message: 'The server cannot be reached.', faults: [] } };
  }
}

/** Hangs a photo or a file on a sheet; gives why not, and nothing where it hangs. */
export async function attach(id: string, number: number, file: File): Promise<string> {
  try {
    const where = `/api/builds/${id}/sheet/${number}/files?name=${encodeURIComponent(file.name)}`;
    const answer = await fetch(where, {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream', 'X-CSRFToken': csrfToken() },
      body: file,
    });
    if (answer.ok) return '';
    const refusal = faultsOf(await answer.json().catch(() => null));
    return [refusal.message, ...(refusal.faults ?? []).map((f) => `It takes ${f.reason}.`)].join(' ');
  } catch {
    return 'The server cannot be reached; the file was not sent.';
  }
}

/** Faults of an answer that is not as hoped, whatever shape it has. */
export function faultsOf(error: unknown): Faults {
  if (error && typeof error === 'object' && 'message' in error) return error as Faults;
  return { message: 'The server could not carry this out.', faults: [] };
}

/** Why a build cannot be shown; empty while it may still come. */
export type Trouble = '' | 'missing' | 'unreachable';

/** One build of the person's, or why it cannot be had. */
export async function getBuild(id: string): Promise<{ build?: BuildOut; trouble: Trouble }> {
  const answer = await api.GET('/api/builds/{id}', { params: { path: { id } } }).catch(() => null);
  if (answer?.data) return { build: answer.data, trouble: '' };
  return { trouble: answer && answer.response.status < 500 ? 'missing' : 'unreachable' };
}
