import type { Setting } from '@yare/books';
import type { Sheet, WriteJob, WriteLine, WriteReport } from '@yare/contract';
import { audit } from '../audit/audit';
import { anotherDrive, type Context } from '../context';
import { changedMeanwhile } from '../documents/documents';
import { refuseWhenGone } from '../door/actor';
import { refuseWhileLocked } from '../lock/locks';
import { machineByTag, type MachineRow } from '../machines/machines';
import { ProblemError } from '../problem';
import { draftOf, latestSheet, noteInDrive, settingsOfSheet } from '../sheets/sheets';
import { beginWrite, canResume, closeForsakenWrite, latestWrite, noteWrite } from './jobs';
import { writeToDrive } from './writeToDrive';

/** A setting and the draft's value of it. */
interface Asked {
  setting: Setting;
  value: number;
}

/** The draft's values of some settings. @throws ProblemError 422 for one the drive has not, or that can only be read */
function askedOf(m: MachineRow, draft: Sheet, codes: readonly string[]): Asked[] {
  const settings = settingsOfSheet(m, draft.values);
  const unknown = codes.find((c) => !settings.at(c));
  if (unknown) throw new ProblemError(422, 'No such setting', `This drive has no setting ${unknown}.`, { field: unknown });
  const chosen = settings.all.filter((s) => codes.includes(s.code));
  const readOnly = chosen.find((s) => s.access === 'read');
  if (readOnly)
    throw new ProblemError(422, 'Read only', `${readOnly.name} ${readOnly.code} can only be read from the drive.`, { field: readOnly.code });
  return chosen.map((setting) => ({ setting, value: settings.value(setting) }));
}

/** Writes to drives: one at a time for each machine, on its claim, each with an account that outlives the server. */
export class Writes {
  /** under way, and whether they are to stop */
  private readonly busy = new Map<string, { stop: boolean }>();

  constructor(private readonly context: Pick<Context, 'db' | 'fleet' | 'claims'>) {}

  /** The newest write of a machine; one that says it goes on while nobody writes is none. */
  async last(m: MachineRow): Promise<WriteJob | null> {
    const { db } = this.context;
    const job = await latestWrite(db, m.id);
    return job?.state === 'writing' && !this.busy.has(m.tag) ? closeForsakenWrite(db, job) : job;
  }

  /** Stops what is being written to a machine; false when nothing is. */
  stop(tag: string): boolean {
    const going = this.busy.get(tag);
    if (going) going.stop = true;
    return going !== undefined;
  }

  /** Writes some settings of a revision of the draft. @throws ProblemError, see {@link askedOf}; 409 when the draft is another by now */
  begin(tag: string, author: string, revision: number, codes: readonly string[]): Promise<WriteReport> {
    const { db, claims } = this.context;
    return claims.during(tag, author, 'write', async () => {
      const m = await machineByTag(db, tag);
      const draft = await draftOf(db, m);
      if (draft.revision !== revision) throw changedMeanwhile('the draft', tag, draft);
      return this.write(m, author, revision, askedOf(m, draft, codes));
    });
  }

  /** Goes on with a write that was broken off. @throws ProblemError 409 when none was, or the draft has changed since */
  goOn(tag: string, author: string): Promise<WriteReport> {
    const { db, claims } = this.context;
    return claims.during(tag, author, 'write', async () => {
      const m = await machineByTag(db, tag);
      const job = await this.last(m);
      if (!canResume(job)) throw new ProblemError(409, 'Nothing to go on with', `No write to ${tag} was broken off. Write what differs instead.`);
      const draft = await draftOf(db, m);
      const settings = settingsOfSheet(m, draft.values);
      const asked = job.lines.flatMap((l) => {
        const setting = settings.at(l.code);
        return setting ? [{ setting, value: l.asked }] : [];
      });
      const changed = asked.find(({ setting, value }) => settings.value(setting) !== value);
      if (changed)
        throw new ProblemError(
          409,
          'Changed meanwhile',
          `The draft of ${tag} has changed since that write began: ${changed.setting.name} ${changed.setting.code}. Write what differs now instead.`,
        );
      return this.write(m, author, draft.revision, asked, job.lines);
    });
  }

  /** Writes under the machine's claim, which the caller holds. */
  private async write(m: MachineRow, author: string, revision: number, asked: Asked[], resumes?: readonly WriteLine[]): Promise<WriteReport> {
    const { db, fleet, claims } = this.context;
    await refuseWhileLocked(db, m);
    refuseWhenGone();
    const going = { stop: false };
    this.busy.set(m.tag, going);
    try {
      const { link } = fleet.stationOf(m.tag);
      const job = await beginWrite(db, m.id, revision, author);
      const result = await writeToDrive(link, asked, {
        progress: (lines) => noteWrite(db, job, { lines }),
        stopped: () => going.stop || claims.of(m.tag)?.lost === true,
        resumes,
        anotherDrive: (refusal) => anotherDrive(m, refusal),
      });
      // a write that did not begin has no lines of its own: what broke off before stays to be gone on with
      const lines = result.lines.length > 0 ? result.lines : (resumes ?? []);
      await noteWrite(db, job, { state: result.outcome, sentence: result.sentence, lines });
      const inDrive = await link
        .readSettings()
        .then((values) => noteInDrive(db, m, author, values))
        .catch(() => latestSheet(db, m, 'in drive'));
      await audit(db, author, resumes ? 'go on writing to drive' : 'write to drive', m.tag, {
        revision,
        outcome: result.outcome,
        codes: asked.map((x) => x.setting.code),
      });
      return { ...result, at: new Date().toISOString(), author, inDrive };
    } finally {
      this.busy.delete(m.tag);
    }
  }
}
