import type { MessagePort } from 'node:worker_threads';
import { bookById, DriveSettings, type Region } from '@yare/books';
import { comtradeFile, type ComtradeForm } from '@yare/commissioning/recording';
import type { Wiring } from '@yare/contract';
import { connect, type Db } from '../db/connect';
import { actingFor, type Actor } from '../door/actor';
import { recordingCsv } from '../recordings/csv';
import { tidyRecordings } from '../recordings/keeping';
import { importRecording } from '../recordings/imported';
import { recordingData, recordingMeta, samplePieces } from '../recordings/recordings';
import { wiringList, type ListedMachine } from '../wiring/wiringList';
import { cut, received, send } from './pieces';

interface OfRow {
  database: string;
  id: number;
}

/** Runs something against the database on a connection of this thread's own. */
async function withDatabase<T>(url: string, work: (db: Db) => Promise<T>): Promise<T> {
  const db = connect(url, { most: 2, patience: 60_000 });
  try {
    return await work(db);
  } finally {
    await db.destroy();
  }
}

function* csvBytes(pieces: Iterable<string>): Generator<Uint8Array> {
  const encoder = new TextEncoder();
  for (const piece of pieces) yield encoder.encode(piece);
}

/** What is done off the serving thread: each takes its input, and bytes come or go through its port. */
export const tasks = {
  /** A recording as CSV, piece by piece. */
  csv: ({ database, id }: OfRow, port: MessagePort) =>
    withDatabase(database, async (db) => {
      await send(port, csvBytes(recordingCsv(await recordingData(db, id))));
    }),

  /** A recording as one COMTRADE file. */
  comtrade: ({ database, id, form }: OfRow & { form: ComtradeForm }, port: MessagePort) =>
    withDatabase(database, async (db) => {
      const { meta, time, data } = await recordingData(db, id);
      const { title, channels, marks } = meta;
      const recorded = { title, channels, marks, time, values: channels.map((c) => data[c.key] ?? []), startedAt: Date.parse(meta.startedAt) };
      await send(port, cut(comtradeFile(recorded, meta.tag, form)));
    }),

  /** The packed samples of a recording. */
  samples: ({ database, id }: OfRow, port: MessagePort) =>
    withDatabase(database, async (db) => {
      await send(port, samplePieces(db, await recordingMeta(db, id)));
    }),

  /** A photo. */
  photo: ({ database, id }: OfRow, port: MessagePort) =>
    withDatabase(database, async (db) => {
      const row = await db('photos').where({ id }).first('data');
      await send(port, cut(row?.data ?? new Uint8Array()));
    }),

  /** Takes in what another instrument recorded; its JSON comes through the port. Tells its number. */
  takeIn: (
    { database, machine, actor, largest }: { database: string; machine: { id: number; tag: string }; actor: Actor; largest: number },
    port: MessagePort,
  ) => withDatabase(database, (db) => actingFor(actor, () => importRecording(db, machine, received(port), largest))),

  /** Thins and removes recordings by the plant's rule. */
  tidy: ({ database, now }: { database: string; now: number }) => withDatabase(database, (db) => tidyRecordings(db, now)),

  /** The wiring list of a machine as PDF. */
  wiringList: async ({ machine, bookId, size, region, values, wiring, at }: WiringListInput, port: MessagePort): Promise<void> => {
    const settings = new DriveSettings(bookById(bookId), size, values, region);
    await send(port, cut(await wiringList(machine, settings, wiring, new Date(at))));
  },
};

interface WiringListInput {
  machine: ListedMachine;
  bookId: string;
  size: string;
  region: Region;
  values: Record<string, number>;
  wiring: Wiring;
  at: number;
}

export type TaskName = keyof typeof tasks;
export type Input<N extends TaskName> = Parameters<(typeof tasks)[N]>[0];
export type Outcome<N extends TaskName> = Awaited<ReturnType<(typeof tasks)[N]>>;
