import type { Duplex } from 'node:stream';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import type { Problem } from '@yare/contract';

/** An error with its RFC 9457 document. `detail` is the sentence a person reads. */
export class ProblemError extends Error {
  readonly problem: Problem;
  constructor(status: number, title: string, detail: string, more: { field?: string; current?: unknown; claim?: Problem['claim'] } = {}) {
    super(detail);
    this.problem = ProblemError.document(status, title, detail, more);
  }

  /** A problem as it came from elsewhere. */
  static of(problem: Problem): ProblemError {
    return Object.assign(new ProblemError(problem.status, problem.title, problem.detail), { problem });
  }

  private static document(status: number, title: string, detail: string, more: object): Problem {
    return { type: `urn:yare:problem:${title.toLowerCase().replace(/[^a-z]+/g, '-')}`, title, status, detail, ...more };
  }
}

export const notFound = (what: string): ProblemError => new ProblemError(404, 'Not found', `There is no ${what}.`);

/** What a schema did not let pass, by the first of its complaints. */
export function badInput([first]: ReadonlyArray<{ instancePath: string; message?: string }>): ProblemError {
  const field = first?.instancePath.split('/').filter(Boolean).join('.') || undefined;
  return new ProblemError(400, 'Bad input', `${field ?? 'The request'} ${first?.message ?? 'is not right'}.`, field ? { field } : {});
}

/** @param consequence what is so because of it, as a sentence */
export const databaseAway = (consequence: string): ProblemError =>
  new ProblemError(503, 'Database away', `The server’s database does not answer. ${consequence}`);

/** PostgreSQL is away, starting or stopping (its error classes 08 and 57P, 55000 while it lets nobody in), or its pool has no connection to give. */
export function isDatabaseAway(error: unknown): boolean {
  const { code, name, message } = error as { code?: string; name?: string; message?: string };
  return (
    name === 'KnexTimeoutError' ||
    /^(08...|57P0[1-5]|53300|55000|57014|ECONNREFUSED|ECONNRESET|EPIPE)$/.test(code ?? '') ||
    /(^| - )(Connection terminated|Connection ended|Query read timeout|timeout expired|Client has encountered a connection error)/.test(message ?? '')
  );
}

/** An address the router cannot read is nowhere: it reaches no route, and no hook either, so what would have been a socket ends here. */
export const unreadable = (_error: unknown, { raw }: FastifyRequest, reply: FastifyReply): void => {
  if (raw.headers.upgrade) reply.raw.once('finish', () => raw.socket.end());
  void reply.status(404).type('application/problem+json').send(notFound('such address').problem);
};

/** Statuses of what is no request, by the parser's codes; any other is a bad request. */
const broken: Readonly<Record<string, string>> = {
  HPE_INVALID_URL: '404 Not Found',
  HPE_HEADER_OVERFLOW: '431 Request Header Fields Too Large',
  ERR_HTTP_REQUEST_TIMEOUT: '408 Request Timeout',
};

/** What cannot be read as a request, or was not ended in time: its connection ends. */
export const brokenOff = ({ code = '' }: NodeJS.ErrnoException, socket: Duplex): void => {
  if (code === 'ECONNRESET' || socket.destroyed) return;
  const answer = `HTTP/1.1 ${broken[code] ?? '400 Bad Request'}\r\ncontent-length: 0\r\nconnection: close\r\n\r\n`;
  if (socket.writable) socket.write(answer);
  socket.destroy();
};

/** Every error leaves as `application/problem+json`; what nobody foresaw is logged and told without its inside. */
export function problemDocuments(app: FastifyInstance): void {
  app.setErrorHandler((error: Error & { validation?: Array<{ instancePath: string; message?: string }>; statusCode?: number }, request, reply) => {
    let problem: Problem;
    if (error instanceof ProblemError) problem = error.problem;
    else if (error.validation) {
      problem = badInput(error.validation).problem;
    } else if (error.statusCode && error.statusCode < 500) {
      problem = { type: 'urn:yare:problem:bad-request', title: 'Bad request', status: error.statusCode, detail: error.message };
    } else if (isDatabaseAway(error)) {
      request.log.error({ err: error }, 'database away');
      problem = databaseAway('Whether this was stored is not sure: look again when it is back, then repeat what is missing.').problem;
    } else {
      request.log.error({ err: error }, 'unforeseen');
      problem = {
        type: 'urn:yare:problem:server-fault',
        title: 'Server fault',
        status: 500,
        detail: 'The server failed on this. Look whether it was done before you try again.',
      };
    }
    return reply.status(problem.status).type('application/problem+json').send(problem);
  });
}
