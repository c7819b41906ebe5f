import { groundOf, surveyGround } from '@yare/commissioning';
import type { FastifyInstance } from 'fastify';
import { Type } from '@sinclair/typebox';
import {
  Plan,
  Problem,
  ProofEdit,
  Proof as ProofSchema,
  SurveyEdit,
  SurveyRevision as SurveyRevisionSchema,
  TagParams,
  type Proof,
  type SurveyRevision,
} from '@yare/contract';
import type { Context } from '../context';
import { audit, latestSheet, lockMachine, machineByTag, plateOf, surveyOf, type MachineRow } from '../machines';
import { authorOf } from '../people';
import { ProblemError } from '../problem';
import type { Db } from '../db/connect';

type Row<T> = Omit<T, 'at'> & { at: Date };
const withTime = <T extends { at: Date }>({ at, ...rest }: T) => ({ ...rest, at: at.toISOString() });

/** The newest proof of each test of a machine. */
async function proofsOf(db: Db, machineId: number): Promise<Proof[]> {
  const rows = (await db('proofs')
    .distinctOn('stage', 'item')
    .where({ machine_id: machineId })
    .orderBy([{ column: 'stage' }, { column: 'item' }, { column: 'id', order: 'desc' }])
    .select('id', 'stage', 'item', 'outcome', 'expected', 'measured', 'relied', 'author', 'at')) as Row<Proof>[];
  return rows.map((r) => withTime(r) as Proof);
}

/** What a proof stands on at this moment: settings as they are in the drive, revision of the plate, supply and place as surveyed, which drive it is. */
async function reliedOn(db: Db, m: MachineRow, edit: ProofEdit): Promise<Proof['relied']> {
  const inDrive = await latestSheet(db, m, 'in drive');
  const survey = edit.survey ? await surveyOf(db, m.id) : null;
  return {
    drive: m.drive_revision,
    ...Object.fromEntries(edit.settings.map((code) => [`setting ${code}`, inDrive?.values[code]?.value ?? null])),
    ...(edit.plate && { plate: (await plateOf(db, m.id)).revision }),
    ...(edit.survey && { survey: surveyGround(survey?.survey ?? groundOf(m.supply)) }),
  };
}

/** The plan of a machine's work: its survey, and what was proved by whom, on what ground. */
export async function planRoutes(app: FastifyInstance, { db }: Context): Promise<void> {
  app.get<{ Params: { tag: string } }>(
    '/machines/:tag/survey',
    { schema: { tags: ['plan'], params: TagParams, response: { 200: Type.Union([SurveyRevisionSchema, Type.Null()]), 404: Problem } } },
    async (request, reply) => {
      const survey = await surveyOf(db, (await machineByTag(db, request.params.tag)).id);
      return reply.type('application/json').send(JSON.stringify(survey));
    },
  );

  app.put<{ Params: { tag: string }; Body: SurveyEdit }>(
    '/machines/:tag/survey',
    { schema: { tags: ['plan'], params: TagParams, body: SurveyEdit, response: { 200: SurveyRevisionSchema, 404: Problem, 409: Problem } } },
    async (request): Promise<SurveyRevision> => {
      const m = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      const { revision, survey } = request.body;
      return db.transaction(async (trx) => {
        await lockMachine(trx, m.id);
        const now = await surveyOf(trx, m.id);
        if ((now?.revision ?? 0) !== revision)
          throw new ProblemError(
            409,
            'Changed meanwhile',
            `${now?.author ?? 'Somebody'} changed the survey of ${m.tag} while you were at it. Theirs is shown; enter yours again where it differs.`,
            {
              current: now,
            },
          );
        await trx('survey_revisions').insert({ machine_id: m.id, revision: revision + 1, survey: JSON.stringify(survey), author });
        // what feeds the machine is what was found there
        await trx('machines')
          .where({ id: m.id })
          .update({ supply: JSON.stringify({ voltage: survey.voltage, frequency: survey.frequency }) });
        await audit(trx, author, 'survey', m.tag, { revision: revision + 1, before: now?.survey ?? null, after: survey });
        return (await surveyOf(trx, m.id))!;
      });
    },
  );

  app.get<{ Params: { tag: string } }>(
    '/machines/:tag/plan',
    { schema: { tags: ['plan'], params: TagParams, response: { 200: Plan, 404: Problem } } },
    async (request) => ({ proofs: await proofsOf(db, (await machineByTag(db, request.params.tag)).id) }),
  );

  app.post<{ Params: { tag: string }; Body: ProofEdit }>(
    '/machines/:tag/proofs',
    { schema: { tags: ['plan'], params: TagParams, body: ProofEdit, response: { 200: ProofSchema, 404: Problem } } },
    async (request): Promise<Proof> => {
      const m = await machineByTag(db, request.params.tag);
      const author = authorOf(request.body);
      const { stage, item, outcome, expected, measured } = request.body;
      const relied = await reliedOn(db, m, request.body);
      return db.transaction(async (trx) => {
        const [row] = (await trx('proofs')
          .insert({ machine_id: m.id, stage, item, outcome, expected, measured, relied: JSON.stringify(relied), author })
          .returning(['id', 'stage', 'item', 'outcome', 'expected', 'measured', 'relied', 'author', 'at'])) as Row<Proof>[];
        await audit(trx, author, stage === 'plan' ? 'left the work' : `proof ${outcome}`, m.tag, { stage, item, measured });
        return withTime(row!) as Proof;
      });
    },
  );
}
