import { Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import { bookById, refuseDependency, refuseValue, settingsOf } from '@yare/books';
import {
  AuthorOnly,
  DraftEdit,
  Problem,
  SettingsFile,
  Sheet as SheetSchema,
  Sheets,
  Tag,
  WriteReport as WriteReportSchema,
  WriteRequest,
  type Sheet,
  type WriteReport,
} from '@yare/contract';
import { ignoredInDrive, type Context } from '../context';
import { LinkDown } from '../link/driveLink';
import { writeToDrive } from '../link/writeToDrive';
import { appendSheet, audit, latestSheet, lockMachine, machineByTag, noteInDrive, type MachineRow } from '../machines';
import { authorOf } from '../people';
import { ProblemError } from '../problem';

const TagParams = Type.Object({ tag: Tag });

const settingsFor = (m: MachineRow) => settingsOf(bookById(m.book_id), m.size);

function changedMeanwhile(tag: string, draft: Sheet): ProblemError {
  return new ProblemError(
    409,
    'Changed meanwhile',
    `${draft.author} changed the draft of ${tag} while you were at it. Both sides are shown; choose one.`,
    { current: draft },
  );
}

/** Settings sheets: the draft and its edits, reading from the drive, writing to it. */
export async function sheetRoutes(app: FastifyInstance, { db, fleet, holdToRun }: Context): Promise<void> {
  const busy = new Set<string>();

  app.get<{ Params: { tag: string } }>(
    '/machines/:tag/sheets',
    { schema: { tags: ['sheets'], params: TagParams, response: { 200: Sheets, 404: Problem } } },
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      const [draft, inDrive] = await Promise.all([latestSheet(db, m.id, 'draft'), latestSheet(db, m.id, 'in drive')]);
      return { draft: draft!, inDrive };
    },
  );

  app.get('/schemas/settings-file', { schema: { tags: ['sheets'] } }, async () => SettingsFile);

  app.put<{ Params: { tag: string }; Body: DraftEdit }>(
    '/machines/:tag/draft',
    { schema: { tags: ['sheets'], params: TagParams, body: DraftEdit, response: { 200: SheetSchema, 404: Problem, 409: Problem, 422: Problem } } },
    async (request): Promise<Sheet> => {
      const m = await machineByTag(db, request.params.tag);
      const { revision, changes } = request.body;
      const author = authorOf(request.body);
      const settings = settingsFor(m);
      return db.transaction(async (trx) => {
        await lockMachine(trx, m.id);
        const draft = (await latestSheet(trx, m.id, 'draft'))!;
        if (draft.revision !== revision) throw changedMeanwhile(m.tag, draft);
        const at = new Date().toISOString();
        const values = { ...draft.values };
        for (const change of changes) {
          const setting = settings.find((s) => s.code === change.code);
          if (!setting) throw new ProblemError(422, 'No such setting', `This drive has no setting ${change.code}.`, { field: change.code });
          const why = refuseValue(setting, change.value);
          if (why) throw new ProblemError(422, 'Out of range', why, { field: change.code });
          values[change.code] = { value: change.value, source: change.source, author, at };
        }
        const figures = Object.fromEntries(Object.entries(values).map(([code, v]) => [code, v.value]));
        for (const change of changes) {
          const setting = settings.find((s) => s.code === change.code)!;
          const why = refuseDependency(settings, setting, change.value, figures);
          if (why) throw new ProblemError(422, 'Contradiction', why, { field: change.code });
        }
        const next = await appendSheet(trx, m.id, 'draft', author, values);
        await audit(trx, author, 'edit draft', m.tag, {
          revision: next.revision,
          changes: changes.map((c) => ({ ...c, before: draft.values[c.code]?.value })),
        });
        return next;
      });
    },
  );

  app.post<{ Params: { tag: string }; Body: { author: string } }>(
    '/machines/:tag/read',
    { schema: { tags: ['drive'], params: TagParams, body: AuthorOnly, response: { 200: SheetSchema, 404: Problem, 503: Problem } } },
    async (request): Promise<Sheet> => {
      const m = await machineByTag(db, request.params.tag);
      const station = fleet.station(m.tag)!;
      try {
        return await noteInDrive(db, m.id, authorOf(request.body), await station.link.readSettings(), ignoredInDrive(m));
      } catch (error) {
        if (!(error instanceof LinkDown)) throw error;
        throw new ProblemError(
          503,
          'No link',
          `The drive of ${m.tag} does not answer. What was last read is still shown. Check its power and the link, then read again.`,
        );
      }
    },
  );

  app.post<{ Params: { tag: string }; Body: WriteRequest }>(
    '/machines/:tag/write',
    {
      schema: {
        tags: ['drive'],
        params: TagParams,
        body: WriteRequest,
        response: { 200: WriteReportSchema, 404: Problem, 409: Problem, 422: Problem },
      },
    },
    async (request): Promise<WriteReport> => {
      const m = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      const draft = (await latestSheet(db, m.id, 'draft'))!;
      if (draft.revision !== request.body.revision) throw changedMeanwhile(m.tag, draft);
      const settings = settingsFor(m).filter((s) => request.body.codes.includes(s.code));
      const unknown = request.body.codes.find((c) => !settings.some((s) => s.code === c));
      if (unknown) throw new ProblemError(422, 'No such setting', `This drive has no setting ${unknown}.`, { field: unknown });
      const readOnly = settings.find((s) => s.access === 'read');
      if (readOnly)
        throw new ProblemError(422, 'Read only', `${readOnly.name} ${readOnly.code} can only be read from the drive.`, { field: readOnly.code });
      if (busy.has(m.tag))
        throw new ProblemError(409, 'Write under way', `Somebody is writing to ${m.tag} at this moment. Wait for it, then look again.`);
      if (holdToRun.runOf(m.tag)) throw new ProblemError(409, 'Motor turning', `${m.tag} is held to run. Let go and let it stand before you write.`);
      busy.add(m.tag);
      try {
        const station = fleet.station(m.tag)!;
        const result = await writeToDrive(
          station.link,
          settings.map((setting) => ({ setting, value: draft.values[setting.code]!.value })),
        );
        const inDrive = await station.link
          .readSettings()
          .then((values) => noteInDrive(db, m.id, author, values, ignoredInDrive(m)))
          .catch(() => latestSheet(db, m.id, 'in drive'));
        await db('writes').insert({ machine_id: m.id, author, outcome: result.outcome, lines: JSON.stringify(result.lines) });
        await audit(db, author, 'write to drive', m.tag, { revision: draft.revision, outcome: result.outcome, codes: request.body.codes });
        return { ...result, at: new Date().toISOString(), author, inDrive };
      } finally {
        busy.delete(m.tag);
      }
    },
  );
}
