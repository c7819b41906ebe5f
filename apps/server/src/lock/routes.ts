import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { LockEdit, LockView, Problem, TagParams } from '@yare/contract';
import { audit } from '../audit/audit';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import { machineByTag } from '../machines/machines';
import { lockOf, lockSettings, openLock } from './locks';

/** Who may change the settings of a machine. */
export const lockRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db, steady }) => {
  app.get(
    '/machines/:tag/lock',
    { schema: { tags: ['settings'], params: TagParams, response: { 200: LockView, 404: Problem } } },
    async ({ params }) => {
      const lock = await lockOf(db, (await machineByTag(db, params.tag)).id);
      return lock && { author: lock.author, at: lock.at.toISOString() };
    },
  );

  app.post(
    '/machines/:tag/lock',
    { schema: { tags: ['settings'], params: TagParams, body: LockEdit, response: { 200: LockView, 404: Problem, 409: Problem } } },
    async ({ params, body }) => {
      const m = await machineByTag(db, params.tag);
      const author = authorOf(body);
      const lock = await lockSettings(db, m, author, body.code);
      await audit(db, author, 'lock settings', m.tag, {});
      return { author, at: lock.at.toISOString() };
    },
  );

  app.post(
    '/machines/:tag/unlock',
    {
      config: { needsNoRoom: true },
      schema: {
        tags: ['settings'],
        params: TagParams,
        body: LockEdit,
        response: { 200: Type.Object({ open: Type.Boolean() }), 403: Problem, 404: Problem, 429: Problem },
      },
    },
    async ({ params, body }) => {
      const m = await machineByTag(db, params.tag);
      await openLock(db, m, body.code, steady());
      await audit(db, authorOf(body), 'unlock settings', m.tag, {});
      return { open: true };
    },
  );
};
