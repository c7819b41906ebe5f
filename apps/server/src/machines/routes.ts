import { Type, type FastifyPluginAsyncTypebox } from '@fastify/type-provider-typebox';
import { drivenFromMotor } from '@yare/core';
import { MachineDetail, MachineNew, MachineSummary, Problem, RecordEdit, TagParams } from '@yare/contract';
import { audit } from '../audit/audit';
import { authorOf } from '../audit/people';
import { refuseUnknownDrive, type Context } from '../context';
import type { Db } from '../db/connect';
import { json } from '../db/tables';
import { firstDraft } from '../drive/firstDraft';
import { refuseWhileLocked } from '../lock/locks';
import { appendPlate } from '../plate/plate';
import { ProblemError } from '../problem';
import { appendSheet } from '../sheets/sheets';
import { detailOf } from './detail';
import { machineByTag, type MachineRow } from './machines';
import { plantList } from './plantList';

/** What a machine is called and where it stands, tidied. @throws ProblemError 400 when nothing but spaces was given */
function placeOf({ name, area }: Pick<MachineNew, 'name' | 'area'>): { name: string; area: string } {
  const tidy = { name: name.trim().replace(/\s+/g, ' '), area: area.trim().replace(/\s+/g, ' ') };
  for (const field of ['name', 'area'] as const)
    if (tidy[field] === '') throw new ProblemError(400, 'Bad input', `The ${field} is empty.`, { field });
  return tidy;
}

/** @throws ProblemError 409 when another machine's drive answers at the address */
async function refuseTakenAddress(trx: Db, unitId: number, own = 0): Promise<void> {
  const other = await trx('machines').where({ unit_id: unitId }).whereNot({ id: own }).first('tag');
  if (other)
    throw new ProblemError(409, 'Address taken', `Modbus address ${unitId} belongs to the drive of ${other.tag}. Two drives cannot share one.`, {
      field: 'unitId',
    });
}

/** Puts a machine on record with its plate and first draft. @throws ProblemError 409 when its tag or address is taken */
async function addMachine(db: Db, asked: MachineNew, author: string): Promise<MachineRow> {
  const { tag, kind, bookId, size, region, unitId, supply, plate } = asked;
  return db.transaction(async (trx) => {
    // two people who add at the same moment come one after the other
    await trx.raw('LOCK TABLE machines IN EXCLUSIVE MODE');
    if (await trx('machines').where({ tag }).first('id'))
      throw new ProblemError(409, 'Tag taken', `There is a machine ${tag} already. Give this one another tag.`, { field: 'tag' });
    await refuseTakenAddress(trx, unitId);
    const first = await trx('machines').orderBy('id').first('site');
    await trx('machines').insert({
      ...placeOf(asked),
      tag,
      site: first?.site ?? 'Plant',
      book_id: bookId,
      size,
      region,
      unit_id: unitId,
      supply: json(supply),
      driven: json(drivenFromMotor(kind, plate)),
      driven_estimated: true,
    });
    const row = await machineByTag(trx, tag);
    await appendPlate(trx, row, 1, author, plate);
    await appendSheet(trx, row, 'draft', author, firstDraft({ bookId, size, region, author }, plate));
    await audit(trx, author, 'new machine', tag, { name: row.name, unitId });
    return row;
  });
}

/** Changes what a machine is called, where it stands and where its drive answers. */
async function changeRecord(
  db: Db,
  tag: string,
  { name, area, unitId }: RecordEdit,
  author: string,
): Promise<{ before: MachineRow; now: MachineRow }> {
  return db.transaction(async (trx) => {
    await trx.raw('LOCK TABLE machines IN EXCLUSIVE MODE');
    const before = await machineByTag(trx, tag);
    if (unitId !== undefined && unitId !== before.unit_id) {
      await refuseWhileLocked(trx, before);
      await refuseTakenAddress(trx, unitId, before.id);
    }
    const after = { ...placeOf({ name: name ?? before.name, area: area ?? before.area }), unit_id: unitId ?? before.unit_id };
    await trx('machines').where({ id: before.id }).update(after);
    await audit(trx, author, 'record', tag, { before: { name: before.name, area: before.area, unit_id: before.unit_id }, after });
    return { before, now: await machineByTag(trx, tag) };
  });
}

/** Machines on record. */
export const machineRoutes: FastifyPluginAsyncTypebox<Context> = async (app, { db, fleet, claims }) => {
  app.get('/machines', { schema: { tags: ['machines'], response: { 200: Type.Array(MachineSummary) } } }, () => plantList(db));

  app.get('/machines/:tag', { schema: { tags: ['machines'], params: TagParams, response: { 200: MachineDetail, 404: Problem } } }, async (request) =>
    detailOf(db, await machineByTag(db, request.params.tag)),
  );

  app.post(
    '/machines',
    { schema: { tags: ['machines'], body: MachineNew, response: { 200: MachineDetail, 409: Problem, 422: Problem } } },
    async ({ body }) => {
      refuseUnknownDrive(body.bookId, body.size);
      const made = await addMachine(db, body, authorOf(body));
      fleet.add(linked(made));
      return detailOf(db, made);
    },
  );

  app.put(
    '/machines/:tag/record',
    { schema: { tags: ['machines'], params: TagParams, body: RecordEdit, response: { 200: MachineDetail, 404: Problem, 409: Problem } } },
    async ({ params, body }) => {
      const { tag } = await machineByTag(db, params.tag);
      const author = authorOf(body);
      const change = async () => {
        const { before, now } = await changeRecord(db, tag, body, author);
        if (now.unit_id !== before.unit_id) fleet.relink(linked(now));
        return detailOf(db, now);
      };
      return body.unitId === undefined ? change() : claims.during(tag, author, 'address', change);
    },
  );
};

/** A machine as its link knows it. */
export const linked = (m: MachineRow) => ({ tag: m.tag, bookId: m.book_id, size: m.size, region: m.region, unitId: m.unit_id });
