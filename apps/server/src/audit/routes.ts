import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { AuditPage, Id, Tag } from '@yare/contract';
import type { Context } from '../context';
import { at } from '../db/time';

const pageSize = 50;

/** Who did what, newest first. */
export const auditRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db }) => {
  const querystring = Type.Object({ before: Type.Optional(Id), tag: Type.Optional(Tag) });
  app.get('/audit', { schema: { tags: ['audit'], querystring, response: { 200: AuditPage } } }, async ({ query }) => {
    const q = db('audit_events')
      .orderBy('id', 'desc')
      .limit(pageSize + 1);
    if (query.before !== undefined) void q.where('id', '<', query.before);
    if (query.tag !== undefined) void q.where({ tag: query.tag });
    const rows = await q;
    const events = rows.slice(0, pageSize).map(at);
    return { events, next: rows.length > pageSize ? (events.at(-1)?.id ?? null) : null };
  });
};
