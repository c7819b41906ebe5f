import { Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import { bookById, refuseDependency, refuseValue, settingsOf } from '@yare/books';
import {
  AuthorOnly,
  DraftEdit,
  Id,
  Problem,
  SettingsFile,
  Sheet as SheetSchema,
  SheetKind,
  SheetRevisionPage,
  Sheets,
  TagParams,
  WriteJob,
  WriteReport as WriteReportSchema,
  WriteRequest,
  type Sheet,
  type SheetRevision,
  type SheetValue,
  type WriteJob as WriteJobType,
  type WriteLine,
  type WriteReport,
} from '@yare/contract';
import { anotherDrive, ignoredInDrive, linkFailed, refuseWhileLocked, type Context } from '../context';
import { writeToDrive } from '../link/writeToDrive';
import { appendSheet, audit, latestSheet, lockMachine, machineByTag, noteInDrive, type MachineRow } from '../machines';
import { authorOf } from '../people';
import { notFound, ProblemError } from '../problem';
import { beginWrite, canResume, closeForsakenWrite, closeInterruptedWrites, latestWrite, noteWrite } from '../writes';

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
export async function sheetRoutes(app: FastifyInstance, { db, fleet, claims }: Context): Promise<void> {
  /** writes under way, and whether they are to stop */
  const busy = new Map<string, { stop: boolean }>();
  await closeInterruptedWrites(db);

  app.get<{ Params: { tag: string } }>(
    '/machines/:tag/sheets',
    { schema: { tags: ['sheets'], params: TagParams, response: { 200: Sheets, 404: Problem } } },
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      const [draft, inDrive, asFound] = await Promise.all([
        latestSheet(db, m, 'draft'),
        latestSheet(db, m, 'in drive'),
        latestSheet(db, m, 'as found'),
      ]);
      return { draft: draft!, inDrive, asFound };
    },
  );

  app.get('/schemas/settings-file', { schema: { tags: ['sheets'] } }, async () => SettingsFile);

  app.put<{ Params: { tag: string }; Body: DraftEdit }>(
    '/machines/:tag/draft',
    { schema: { tags: ['sheets'], params: TagParams, body: DraftEdit, response: { 200: SheetSchema, 404: Problem, 409: Problem, 422: Problem } } },
    async (request): Promise<Sheet> => {
      const { id } = await machineByTag(db, request.params.tag);
      const { revision, changes } = request.body;
      const author = authorOf(request.body);
      return db.transaction(async (trx) => {
        // as it stands under the lock: another drive may have taken the place of the one before a moment ago
        const m = await lockMachine(trx, id);
        await refuseWhileLocked(trx, m);
        const settings = settingsFor(m);
        const draft = (await latestSheet(trx, m, 'draft'))!;
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
        const next = await appendSheet(trx, m, 'draft', author, values);
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
    { schema: { tags: ['drive'], params: TagParams, body: AuthorOnly, response: { 200: SheetSchema, 404: Problem, 409: Problem, 424: Problem } } },
    async (request): Promise<Sheet> => {
      const { tag } = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      return claims.during(tag, author, 'read', async () => {
        // the claim keeps the drive of the record where it is from here on
        const m = await machineByTag(db, tag);
        const values = await fleet
          .station(tag)!
          .link.readSettings()
          .catch((error: unknown) => linkFailed(m, error, 'What was last read is still shown. Check its power and the link, then read again.'));
        return (await noteInDrive(db, m, author, values, ignoredInDrive(m)))!;
      });
    },
  );

  /** The newest write of a machine; one that says it goes on while nobody writes is none. */
  const lastWrite = async (m: MachineRow): Promise<WriteJobType | null> => {
    const job = await latestWrite(db, m.id);
    return job?.state === 'writing' && !busy.has(m.tag) ? closeForsakenWrite(db, job) : job;
  };

  /** Writes under the machine's claim, which the caller holds. */
  const write = async (m: MachineRow, author: string, revision: number, asked: Asked[], resumes?: readonly WriteLine[]): Promise<WriteReport> => {
    await refuseWhileLocked(db, m);
    const going = { stop: false };
    busy.set(m.tag, going);
    try {
      const { link } = fleet.station(m.tag)!;
      const job = await beginWrite(db, m.id, revision, author);
      const result = await writeToDrive(link, asked, {
        progress: async (lines) => void (await noteWrite(db, job, { lines })),
        stopped: () => going.stop,
        resumes,
        anotherDrive: anotherDrive(m),
      });
      // a write that did not begin has no lines of its own: what broke off before stays to be gone on with
      const lines = result.lines.length > 0 ? result.lines : (resumes ?? []);
      await noteWrite(db, job, { state: result.outcome, sentence: result.sentence, lines });
      const inDrive = await link
        .readSettings()
        .then((values) => noteInDrive(db, m, author, values, ignoredInDrive(m)))
        .catch(() => latestSheet(db, m, 'in drive'));
      await db('writes').insert({ machine_id: m.id, author, outcome: result.outcome, lines: JSON.stringify(result.lines) });
      await audit(db, author, resumes ? 'go on writing to drive' : 'write to drive', m.tag, {
        revision,
        outcome: result.outcome,
        codes: asked.map((x) => x.setting.code),
      });
      return { ...result, at: new Date().toISOString(), author, inDrive };
    } finally {
      busy.delete(m.tag);
    }
  };
  const writeResponse = { 200: WriteReportSchema, 404: Problem, 409: Problem, 422: Problem, 423: Problem };

  app.post<{ Params: { tag: string }; Body: WriteRequest }>(
    '/machines/:tag/write',
    { schema: { tags: ['drive'], params: TagParams, body: WriteRequest, response: writeResponse } },
    async (request): Promise<WriteReport> => {
      const { tag } = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      return claims.during(tag, author, 'write', async () => {
        const m = await machineByTag(db, tag);
        const draft = (await latestSheet(db, m, 'draft'))!;
        if (draft.revision !== request.body.revision) throw changedMeanwhile(tag, draft);
        const settings = settingsFor(m).filter((s) => request.body.codes.includes(s.code));
        const unknown = request.body.codes.find((c) => !settings.some((s) => s.code === c));
        if (unknown) throw new ProblemError(422, 'No such setting', `This drive has no setting ${unknown}.`, { field: unknown });
        const readOnly = settings.find((s) => s.access === 'read');
        if (readOnly)
          throw new ProblemError(422, 'Read only', `${readOnly.name} ${readOnly.code} can only be read from the drive.`, { field: readOnly.code });
        const asked = settings.map((setting) => ({ setting, value: draft.values[setting.code]!.value }));
        return write(m, author, draft.revision, asked);
      });
    },
  );

  app.get<{ Params: { tag: string } }>(
    '/machines/:tag/write',
    { schema: { tags: ['drive'], params: TagParams, response: { 200: Type.Union([WriteJob, Type.Null()]), 404: Problem } } },
    async (request, reply) => {
      const job = await lastWrite(await machineByTag(db, request.params.tag));
      return reply.type('application/json').send(JSON.stringify(job));
    },
  );

  app.post<{ Params: { tag: string }; Body: { author: string } }>(
    '/machines/:tag/write/resume',
    { schema: { tags: ['drive'], params: TagParams, body: AuthorOnly, response: writeResponse } },
    async (request): Promise<WriteReport> => {
      const { tag } = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      return claims.during(tag, author, 'write', () => goOn(tag, author));
    },
  );

  const goOn = async (tag: string, author: string): Promise<WriteReport> => {
    const m = await machineByTag(db, tag);
    const job = await lastWrite(m);
    if (!canResume(job)) throw new ProblemError(409, 'Nothing to go on with', `No write to ${m.tag} was broken off. Write what differs instead.`);
    const draft = (await latestSheet(db, m, 'draft'))!;
    const settings = settingsFor(m);
    const asked = job.lines.flatMap((l) => {
      const setting = settings.find((s) => s.code === l.code);
      return setting ? [{ setting, value: l.asked }] : [];
    });
    const changed = asked.find(({ setting, value }) => draft.values[setting.code]?.value !== value);
    if (changed)
      throw new ProblemError(
        409,
        'Changed meanwhile',
        `The draft of ${m.tag} has changed since that write began: ${changed.setting.name} ${changed.setting.code}. Write what differs now instead.`,
      );
    return write(m, author, draft.revision, asked, job.lines);
  };

  app.post<{ Params: { tag: string }; Body: { author: string } }>(
    '/machines/:tag/write/stop',
    { schema: { tags: ['drive'], params: TagParams, body: AuthorOnly, response: { 200: Type.Object({ stopping: Type.Boolean() }), 404: Problem } } },
    async (request) => {
      const going = busy.get((await machineByTag(db, request.params.tag)).tag);
      if (going) going.stop = true;
      return { stopping: going !== undefined };
    },
  );

  app.get<{ Params: { tag: string }; Querystring: { before?: number } }>(
    '/machines/:tag/revisions',
    {
      schema: {
        tags: ['sheets'],
        params: TagParams,
        querystring: Type.Object({ before: Type.Optional(Id) }),
        response: { 200: SheetRevisionPage, 404: Problem },
      },
    },
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      const q = db('sheet_revisions')
        .where({ machine_id: m.id })
        .orderBy('id', 'desc')
        .limit(revisionsPage + 1);
      if (request.query.before !== undefined) void q.where('id', '<', request.query.before);
      const rows = (await q) as RevisionRow[];
      const page = rows.slice(0, revisionsPage);
      const revisions = await Promise.all(
        page.map(async (r): Promise<SheetRevision> => {
          const before = (await db('sheet_revisions')
            .where({ machine_id: m.id, kind: r.kind, drive_revision: r.drive_revision })
            .where('revision', '<', r.revision)
            .orderBy('revision', 'desc')
            .first('values')) as { values: Record<string, SheetValue> } | undefined;
          const changed = before ? Object.entries(r.values).filter(([code, v]) => before.values[code]?.value !== v.value).length : 0;
          const otherDrive = r.drive_revision !== m.drive_revision;
          return { kind: r.kind, revision: r.revision, author: r.author, at: r.at.toISOString(), changed, otherDrive };
        }),
      );
      return { revisions, next: rows.length > revisionsPage ? page[page.length - 1]!.id : null };
    },
  );

  app.get<{ Params: { tag: string; kind: Sheet['kind']; revision: number } }>(
    '/machines/:tag/revisions/:kind/:revision',
    {
      schema: {
        tags: ['sheets'],
        params: Type.Composite([TagParams, Type.Object({ kind: SheetKind, revision: Id })]),
        response: { 200: SheetSchema, 404: Problem },
      },
    },
    async (request) => {
      const m = await machineByTag(db, request.params.tag);
      const { kind, revision } = request.params;
      const r = (await db('sheet_revisions').where({ machine_id: m.id, kind, revision }).first()) as RevisionRow | undefined;
      if (!r) throw notFound(`revision ${revision} of ${kind} of ${m.tag}`);
      return { kind: r.kind, revision: r.revision, author: r.author, at: r.at.toISOString(), values: r.values };
    },
  );
}

/** A setting and the draft's value of it. */
type Asked = Parameters<typeof writeToDrive>[1][number];

const revisionsPage = 30;
type RevisionRow = Omit<Sheet, 'at'> & { id: number; at: Date; drive_revision: number };
