import { problemCodes } from '@yare/contract/problemCodes';
import type { Problem } from '@yare/contract';
import { say } from '@yare/words/pages/data';

/** The server answered with a problem document. */
export class ApiProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** The server did not answer. */
export class Offline extends Error {
  constructor() {
    super(say.theServerDoesNotAnswer);
  }
}

/** @throws ApiProblem with the server's sentence, or Offline when there was no answer */
export async function api<T>(path: string, init?: { method: string; body: unknown }): Promise<T> {
  let response: Response;
  try {
    response = await fetch(
      `/api/v1${path}`,
      init && { method: init.method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(init.body) },
    );
  } catch {
    throw new Offline();
  }
  return answerOf<T>(response);
}

/** Bytes as the server keeps them. @throws as {@link api} does */
export async function apiBytes(path: string): Promise<ArrayBuffer> {
  const response = await fetch(`/api/v1${path}`).catch(() => {
    throw new Offline();
  });
  return response.ok ? response.arrayBuffer() : answerOf(response);
}

const isProblem = (body: unknown): body is Problem =>
  typeof body === 'object' && body !== null && 'detail' in body && typeof body.detail === 'string' && 'status' in body;

/** What the server answered. @throws ApiProblem, or Offline when something else than the server did */
export async function answerOf<T>(response: Response): Promise<T> {
  // the contract between page and server: what it says is of the shape the caller names
  if (response.ok) return (await response.json()) as T;
  const problem: unknown = await response.json().catch(() => null);
  if (!isProblem(problem)) throw new Offline();
  if (problem.type === problemCodes.notPaired) tellNotPaired();
  throw new ApiProblem(problem);
}

let tellNotPaired = () => {};
/** Who wants to know that the server does not know this device. */
export const onNotPaired = (tell: () => void): void => {
  tellNotPaired = tell;
};
