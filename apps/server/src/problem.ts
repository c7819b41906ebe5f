import type { FastifyInstance } from 'fastify';
import type { Problem } from '@yare/contract';

/** An error with its RFC 9457 document. `detail` is the sentence a person reads. */
export class ProblemError extends Error {
  readonly problem: Problem;
  constructor(status: number, title: string, detail: string, more: { field?: string; current?: unknown } = {}) {
    super(detail);
    this.problem = { type: `urn:yare:problem:${title.toLowerCase().replace(/[^a-z]+/g, '-')}`, title, status, detail, ...more };
  }
}

export const notFound = (what: string): ProblemError => new ProblemError(404, 'Not found', `There is no ${what}.`);

/** Every error leaves as `application/problem+json`; what nobody foresaw is logged and told without its inside. */
export function problemDocuments(app: FastifyInstance): void {
  app.setErrorHandler((error: Error & { validation?: Array<{ instancePath: string; message?: string }>; statusCode?: number }, request, reply) => {
    let problem: Problem;
    if (error instanceof ProblemError) problem = error.problem;
    else if (error.validation) {
      const first = error.validation[0];
      const field = first?.instancePath.split('/').filter(Boolean).join('.') || undefined;
      problem = {
        type: 'urn:yare:problem:bad-input',
        title: 'Bad input',
        status: 400,
        detail: `${field ?? 'The request'} ${first?.message ?? 'is not right'}.`,
        ...(field && { field }),
      };
    } else if (error.statusCode && error.statusCode < 500) {
      problem = { type: 'urn:yare:problem:bad-request', title: 'Bad request', status: error.statusCode, detail: error.message };
    } else {
      request.log.error({ err: error }, 'unforeseen');
      problem = {
        type: 'urn:yare:problem:server-fault',
        title: 'Server fault',
        status: 500,
        detail: 'The server failed on this. Nothing was changed; try again.',
      };
    }
    return reply.status(problem.status).type('application/problem+json').send(problem);
  });
}
