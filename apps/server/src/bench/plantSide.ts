import Ajv, { type ValidateFunction } from 'ajv';
import { BenchReading, BenchView, type BenchAct, type BenchStand } from '@yare/contract';
import { ProblemError } from '../problem';

/** Where the bench's plant side answers. */
export interface PlantAddress {
  host: string;
  port: number;
}

const answerWithin = 1500;
const ajv = new Ajv({ strict: false, strictNumbers: true });
const isBenchView = ajv.compile<BenchView>(BenchView);
const isBenchReading = ajv.compile<BenchReading>(BenchReading);

/** The sentence of an answer that is none of what was asked for. */
function sentenceOf(body: unknown): string {
  if (typeof body === 'object' && body !== null) {
    if ('sentence' in body && typeof body.sentence === 'string') return body.sentence;
    if ('message' in body && typeof body.message === 'string') return body.message;
  }
  return 'The bench refused.';
}

/** The plant side of the bench, over HTTP. A plant with real drives has none, and says so. */
export class PlantClient {
  constructor(private readonly address: PlantAddress | undefined) {}

  view = (tag: string): Promise<BenchView> => this.ask(`/${tag}`, isBenchView);
  measure = (tag: string, id: string): Promise<BenchReading> => this.ask(`/${tag}/readings/${encodeURIComponent(id)}`, isBenchReading);
  act = (tag: string, act: BenchAct): Promise<BenchView> => this.ask(`/${tag}`, isBenchView, 'POST', act);
  put = (stand: BenchStand): Promise<BenchView> => this.ask('', isBenchView, 'PUT', stand);

  /** @throws ProblemError 404 without a bench, 424 when it does not answer; its own refusal otherwise */
  private async ask<T>(path: string, is: ValidateFunction<T>, method = 'GET', sent?: object): Promise<T> {
    if (!this.address) throw new ProblemError(404, 'No bench', 'There is no bench here: the drives of this plant are real.');
    const { host, port } = this.address;
    let response: Response;
    try {
      response = await fetch(`http://${host}:${port}/machines${path}`, {
        method,
        ...(sent && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(sent) }),
        signal: AbortSignal.timeout(answerWithin),
      });
    } catch {
      throw new ProblemError(424, 'Bench away', 'The bench does not answer. Whether anything was done at the machine is not sure: look again.');
    }
    const body: unknown = await response.json();
    if (response.ok && is(body)) return body;
    throw new ProblemError(response.status < 500 && !response.ok ? response.status : 424, 'Not at the bench', sentenceOf(body));
  }
}
