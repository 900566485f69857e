import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schema = components['schemas'];
export type AccountState = Schema['AccountState'];
export type ComposeAnswer = Schema['ComposeAnswer'];
export type ComposeRequest = Schema['ComposeRequest'];
export type Notice = Schema['Notice'];
export type StripSegment = Schema['StripSegment'];
export type FieldAnswer = Schema['FieldAnswer'];
export type LedgerRow = Schema['LedgerRow'];
export type CampaignAnswer = Schema['CampaignAnswer'];
export type PlacementAnswer = Schema['PlacementAnswer'];
export type SavedLink = Schema['SavedLink'];
export type ArrivalsAnswer = Schema['ArrivalsAnswer'];
export type FigureAnswer = Schema['FigureAnswer'];

let token = '';

/** Remembers the token that everything which changes something must send along. */
export function rememberToken(next: string): void {
  token = next;
}

export const api = createClient<paths>({ baseUrl: window.location.origin });

api.use({
  onRequest({ request }) {
    if (request.method !== 'GET' && token) request.headers.set('X-Beacon-Token', token);
    return request;
  },
  onError() {
    return new Error('The server can’t be reached right now.');
  },
});

/** A refusal as the server words it. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly rule?: string,
    /** What somebody else wrote in the meantime, where that is why. */
    readonly theirs?: unknown,
  ) {
    super(message);
  }
}

/** The answer's data, or the refusal as an error that can be shown as it is. */
export function dataOf<T>(answer: { data?: T; error?: unknown; response: Response }): T {
  if (answer.response.ok) return answer.data as T;
  const problem = (answer.error ?? {}) as { detail?: string; rule?: string; theirs?: unknown };
  throw new Refused(
    problem.detail ?? 'The server could not answer. Nothing was changed. Try again in a moment.',
    answer.response.status,
    problem.rule,
    problem.theirs,
  );
}
