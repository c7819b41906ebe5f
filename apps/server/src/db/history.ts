import type { Proof, RecordingMeta, TripDetail, TripEntry } from '@yare/contract';
import { audit } from '../audit/audit';
import type { Db } from './connect';
import { json } from './tables';

type Ago = { author: string; ago: number };

/** What was on record of the demo plant when it was made by running the bench; times in s before the end of that. */
export interface DemoHistory {
  machines: Array<{ id: number; tag: string; note: string }>;
  recordings: Array<Pick<RecordingMeta, 'id' | 'kind' | 'title' | 'channels' | 'duration' | 'samples'> & Ago & { machine_id: number }>;
  marks: Array<{ recording_id: number; time: number; label: string; author: string }>;
  chunks: Array<{ recording_id: number; channel: string; sequence: number; data: string }>;
  trips: Array<
    Pick<TripEntry, 'source' | 'code' | 'cause' | 'name' | 'seen' | 'closed'> &
      Pick<TripDetail, 'snapshot' | 'afterwards' | 'answers'> & {
        machine_id: number;
        ago: number;
        in_drive: TripDetail['inDrive'];
        trend_id: number | null;
        trace_id: number | null;
      }
  >;
  proofs: Array<Pick<Proof, 'stage' | 'item' | 'outcome' | 'facts' | 'relied'> & Ago & { machine_id: number }>;
}

const day = 86_400_000;
/** Days each of a machine's trips lies back, the oldest first, and days between machines, so that not all of the plant trips on one afternoon. */
const daysBack = [19, 4];
const apart = 0.7;

/** Puts behind a fresh demo plant what was made by running its bench. Nothing is changed where machines have trips or recordings already. */
export async function seedHistory(db: Db, history: DemoHistory): Promise<void> {
  await db.transaction(async (trx) => {
    await trx.raw('LOCK TABLE machines IN EXCLUSIVE MODE');
    if ((await trx('trips').first('id')) || (await trx('recordings').first('id'))) return;
    const rows = new Map((await trx('machines')).map((m) => [m.tag, m.id]));
    const own = new Map(history.machines.map((m) => [m.id, { id: rows.get(m.tag), tag: m.tag }]));
    const now = Date.now();
    /** ms a thing of a machine is moved back by: as far as the trip that it belongs to, the next one after it. */
    const shift = (machine: number, ago: number): number => {
      const trips = history.trips.filter((t) => t.machine_id === machine);
      const next = trips.findIndex((t) => t.ago <= ago + 1);
      const back = daysBack[Math.min(daysBack.length - 1, next < 0 ? trips.length - 1 : next)] ?? 1;
      return (back + apart * ([...own.keys()].indexOf(machine) % 5)) * day;
    };
    const at = (machine: number, ago: number): Date => new Date(now - ago * 1000 - shift(machine, ago));
    const recordings = new Map<number, number>();
    for (const { id, machine_id, ago, channels, ...r } of history.recordings) {
      const machine = own.get(machine_id)?.id;
      if (machine === undefined) continue;
      const [row] = await trx('recordings')
        .insert({ ...r, machine_id: machine, started_at: at(machine_id, ago), channels: json(channels), complete: true })
        .returning('id');
      if (row) recordings.set(id, row.id);
    }
    const of = (id: number | null): number | null => (id === null ? null : (recordings.get(id) ?? null));
    const kept = <T extends { recording_id: number }>(list: readonly T[]) =>
      list.flatMap((x) => {
        const recording_id = of(x.recording_id);
        return recording_id === null ? [] : [{ ...x, recording_id }];
      });
    await trx.batchInsert('recording_marks', kept(history.marks), 200);
    await trx.batchInsert(
      'recording_chunks',
      kept(history.chunks).map((c) => ({ ...c, data: Buffer.from(c.data, 'base64') })),
      50,
    );
    for (const { machine_id, ago, snapshot, afterwards, answers, closed, in_drive, trend_id, trace_id, ...t } of history.trips) {
      const machine = own.get(machine_id);
      if (machine?.id === undefined) continue;
      const when = at(machine_id, ago);
      const closing = closed && { ...closed, at: new Date(when.getTime() + day / 24).toISOString() };
      await trx('trips').insert({
        ...{ ...t, machine_id: machine.id, at: when, trend_id: of(trend_id), trace_id: of(trace_id) },
        ...{ snapshot: json(snapshot), answers: json(answers), closed: closing && json(closing) },
        ...{ afterwards: afterwards && json(afterwards), in_drive: in_drive && json(in_drive) },
      });
    }
    for (const { machine_id, ago, relied, facts, ...p } of history.proofs) {
      const machine = own.get(machine_id);
      if (machine?.id !== undefined)
        await trx('proofs').insert({ ...p, machine_id: machine.id, at: at(machine_id, ago), relied: json(relied), facts: json(facts) });
    }
    for (const m of history.machines) if (m.note) await trx('machines').where({ tag: m.tag }).update({ note: m.note });
    await audit(trx, 'Demo plant', 'history of the demo plant', null, { trips: history.trips.length, recordings: history.recordings.length });
  });
}
