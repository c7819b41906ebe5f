import type { FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { bookById, ratingOf } from '@yare/books';
import { contradictedBy, groundOf, groundsOf, proofAt, settingPrefix, surveyGround } from '@yare/commissioning';
import { Plan, Problem, Proof, ProofEdit, TagParams } from '@yare/contract';
import { proofName } from '@yare/words/stages';
import { audit } from '../audit/audit';
import { authorOf } from '../audit/people';
import type { Context } from '../context';
import type { Db } from '../db/connect';
import { json } from '../db/tables';
import { at } from '../db/time';
import { leftBy } from '../leaving/leaving';
import { machineByTag, type MachineRow } from '../machines/machines';
import { plateOf } from '../plate/plate';
import { notFound, ProblemError } from '../problem';
import { latestSheet } from '../sheets/sheets';
import { surveyOf } from '../survey/survey';

const told = ['id', 'stage', 'item', 'outcome', 'facts', 'told', 'relied', 'author', 'at'] as const;

/** The newest proof of each test of a machine. */
async function proofsOf(db: Db, machineId: number): Promise<Proof[]> {
  const rows = await db('proofs')
    .distinctOn('stage', 'item')
    .where({ machine_id: machineId })
    .orderBy([{ column: 'stage' }, { column: 'item' }, { column: 'id', order: 'desc' }])
    .select(...told);
  return rows.map(at);
}

/** What a proof stands on at this moment: settings as they are in the drive, revision of the plate, supply and place as surveyed, which drive it is. */
async function reliedOn(db: Db, m: MachineRow, edit: ProofEdit): Promise<Proof['relied']> {
  const inDrive = await latestSheet(db, m, 'in drive');
  const survey = (await surveyOf(db, m.id))?.survey ?? groundOf(m.supply);
  const plate = await plateOf(db, m.id);
  const definition = proofAt(edit.stage, edit.item);
  return {
    drive: m.drive_revision,
    ...Object.fromEntries(edit.settings.map((code) => [`${settingPrefix}${code}`, inDrive?.values[code]?.value ?? null])),
    ...(definition
      ? groundsOf(definition, plate.plate, survey)
      : { ...(edit.plate && { plate: plate.revision }), ...(edit.survey && { survey: surveyGround(survey) }) }),
  };
}

/** @throws ProblemError 409 while somebody has command over the link, or nobody can tell */
async function refuseBorrowed(fleet: Context['fleet'], m: MachineRow): Promise<void> {
  const station = fleet.station(m.tag);
  const live = station && (await fleet.ask(station));
  if (live?.holder === 'terminals') return;
  const why = live?.link === 'up' ? `${live.command} has command of ${m.tag}` : `the drive of ${m.tag} does not answer`;
  throw new ProblemError(409, 'Contradicted by the drive', `Command was not seen to be given back: ${why}. Nothing was noted.`);
}

/** @throws ProblemError 409 when the drive's own reading speaks against a test that is said to have passed */
async function refuseContradicted({ db, fleet }: Pick<Context, 'db' | 'fleet'>, m: MachineRow, { stage, item, outcome }: ProofEdit): Promise<void> {
  if (outcome !== 'passed') return;
  if (stage === 'command') return refuseBorrowed(fleet, m);
  if (stage !== 'before-power') return;
  const station = fleet.station(m.tag);
  // asked at this moment: what was read a second ago may be another drive's, or of a bus that was still charged
  const live = station && (await fleet.ask(station));
  const survey = await surveyOf(db, m.id);
  const why = contradictedBy(item, live, survey?.survey.lineVoltages ?? null, ratingOf(bookById(m.book_id), m.size).input);
  if (why) throw new ProblemError(409, 'Contradicted by the drive', why);
}

/** @throws ProblemError 422 for a test no stage has, and for figures of another test */
function refuseOther({ stage, item, outcome, facts }: ProofEdit, watched: boolean): void {
  const definition = proofAt(stage, item);
  if (!definition) throw new ProblemError(422, 'Unknown test', `Stage ${stage} has no test “${item}”.`);
  if (watched || outcome === 'taken back') return;
  const wanted = definition.facts ?? 'look';
  if (facts?.kind !== wanted)
    throw new ProblemError(
      422,
      'Other figures',
      `“${proofName(stage, item)}” is told by what was found in it: “${wanted}”, and not “${facts?.kind ?? 'nothing'}”.`,
    );
}

/** What was proved at a machine by whom, and on what ground. */
export const proofRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db, fleet, watched }) => {
  app.get('/machines/:tag/plan', { schema: { tags: ['plan'], params: TagParams, response: { 200: Plan, 404: Problem } } }, async ({ params }) => {
    const { id } = await machineByTag(db, params.tag);
    const [proofs, left] = await Promise.all([proofsOf(db, id), leftBy(db, id)]);
    return { proofs, left };
  });

  app.post(
    '/machines/:tag/proofs',
    { schema: { tags: ['plan'], params: TagParams, body: ProofEdit, response: { 200: Proof, 404: Problem, 409: Problem } } },
    async ({ params, body }) => {
      const m = await machineByTag(db, params.tag);
      const author = authorOf(body);
      const { stage, item, outcome } = body;
      await refuseContradicted({ db, fleet }, m, body);
      const proving = outcome === 'passed' ? await watched.proving(m.tag, stage, item) : null;
      refuseOther(body, proving !== null);
      if (proving && proving.facts === null)
        throw new ProblemError(409, 'Not seen', `The server has not seen this at ${m.tag} with what is in the drive now. Nothing was noted.`);
      const facts = proving ? proving.facts : body.facts;
      const relied = json(await reliedOn(db, m, body));
      const noted = await db.transaction(async (trx) => {
        const [row] = await trx('proofs')
          .insert({ machine_id: m.id, stage, item, outcome, facts: json(facts), relied, author })
          .returning([...told]);
        if (!row) throw notFound('such proof');
        await audit(trx, author, `proof ${outcome}`, m.tag, { stage, item, facts });
        return at(row);
      });
      if (proving) watched.counted(m.tag, proving.watch, item);
      return noted;
    },
  );
};
