import { Type, type Static, type TProperties, type TSchema } from '@sinclair/typebox';
import { Arming } from './recording';
import { BenchAct, BenchFault } from './bench';
import { Keeping } from './keeping';
import { literals, orNull } from './literals';
import { LearnedEdit } from './learned';
import { LeaveEdit } from './leaving';
import { RunGuide } from './live';
import { StampedPlate } from './plate';
import { ProofEdit } from './proof';
import { Survey } from './survey';
import { TripAnswers, TripClose } from './trip';
import { Wiring } from './wiring';
import { WriteReport } from './write';

/** Who an act may come from: somebody who is let in, the server by itself, or either. */
type Who = 'person' | 'server' | 'either';

interface Act<D extends TSchema> {
  who: Who;
  /** what may lead to a trip, or belongs to its story: told on the page of a trip as done lately */
  lately: boolean;
  detail: D;
}

const id = Type.Integer({ minimum: 1 });
const act = <P extends TProperties>(who: Who, detail: P, lately = false) => ({ who, lately, detail: Type.Object(detail) }) satisfies Act<TSchema>;

/** What acts outside the database is noted twice: that it is intended, and what came of it. */
export const ActStep = Type.Object({ step: literals(['intended', 'done', 'failed']), why: Type.Optional(Type.String()) });
export type ActStep = Static<typeof ActStep>;

/** What a revision of a document keeps of its change. */
const revised = <D extends TSchema>(document: D) => ({ revision: Type.Integer(), before: orNull(document), after: document });
const run = { frequency: Type.Number(), guide: Type.Optional(RunGuide), recording: orNull(id) };
// events of before figures were kept have what was told
const proof = {
  ...{ stage: Type.String(), item: Type.String() },
  ...{ facts: Type.Optional(ProofEdit.properties.facts), measured: Type.Optional(Type.String()) },
};
const place = Type.Object({ name: Type.String(), area: Type.String(), unit_id: Type.Integer() });
const written = { revision: Type.Integer(), outcome: WriteReport.properties.outcome, codes: Type.Array(Type.String()) };
const learned = { recording: LearnedEdit.properties.recordingId, also: Type.Optional(id), values: LearnedEdit.properties.values };

/** A change of one setting; events of before the names were kept have only its code. */
const Change = Type.Object({
  ...{ code: Type.String(), value: Type.Number(), before: Type.Optional(Type.Number()), source: Type.Optional(Type.String()) },
  ...{ name: Type.Optional(Type.String()), unit: Type.Optional(Type.String()) },
  ...{ from: Type.Optional(Type.String()), to: Type.Optional(Type.String()) },
});

/** Everything the log knows, by its code: what is not here cannot be logged. What each is called stands with the words of the log. */
export const acts = {
  // the plant
  seed: act('server', { machines: Type.Integer() }),
  'demo plant brought up to date': act('server', { from: Type.String(), to: Type.String() }),
  'history of the demo plant': act('server', { trips: Type.Integer(), recordings: Type.Integer() }),
  'new machine': act('person', { name: Type.String(), unitId: Type.Integer() }),
  record: act('person', { before: place, after: place }),
  note: act('person', { note: Type.String() }),
  // what stands on record of it
  'edit plate': act('person', revised(StampedPlate), true),
  'edit survey': act('person', revised(Survey), true),
  'edit wiring': act('person', revised(Wiring), true),
  'edit draft': act('person', { revision: Type.Integer(), changes: Type.Array(Change) }),
  drive: act(
    'person',
    { from: Type.Array(Type.Union([Type.String(), Type.Integer()])), to: Type.Array(Type.Union([Type.String(), Type.Integer()])) },
    true,
  ),
  'photo of the plate': act('person', { photo: id, bytes: Type.Integer() }),
  'remove photo': act('person', { photo: id, takenBy: Type.String(), at: Type.String() }),
  'save motor': act('person', { name: Type.String() }),
  'remove saved motor': act('person', { name: Type.String() }),
  // proofs
  'proof passed': act('person', proof, true),
  'proof failed': act('person', proof, true),
  'proof taken back': act('person', proof),
  // events of before the stages were kept have what was told
  'left the work': act('person', { stages: Type.Optional(LeaveEdit.properties.stages), measured: Type.Optional(Type.String()) }),
  'work goes on': act('person', {}),
  // at the drive
  'write to drive': act('person', written, true),
  'go on writing to drive': act('person', written, true),
  'keep in drive': act('person', { kept: Type.Optional(Type.Boolean()) }, true),
  'lock settings': act('person', {}),
  'unlock settings': act('either', { without: Type.Optional(Type.Literal('code')) }, true),
  'hold to run': act('person', run),
  'tune standstill': act('person', run),
  'tune rotating': act('person', run),
  'step test': act('person', run),
  'steady speeds': act('person', run),
  'stop over link': act('person', {}),
  'tried wires': act('person', {}),
  bench: act('person', { fault: orNull(BenchFault), pace: orNull(Type.Number()), drill: Type.Optional(BenchAct.properties.drill) }),
  'put on the bench': act('person', { unitId: Type.Integer() }),
  // trips
  tripped: act('server', { code: Type.Integer(), name: Type.String() }),
  'trip gone': act('server', { code: Type.Integer() }),
  'reset trip': act('person', {}),
  'trip told': act('person', { trip: id, code: orNull(Type.Integer()) }),
  'trip answered': act('person', { trip: id, answers: TripAnswers.properties.answers }),
  'trip closed': act(
    'person',
    { trip: id, cause: TripClose.properties.cause, cure: TripClose.properties.cure, proof: TripClose.properties.proof },
    true,
  ),
  'trip reopened': act('person', { trip: id }),
  // recordings
  learn: act('person', learned, true),
  'put learning aside': act('person', learned),
  'mark recording': act('person', { recording: id, time: Type.Number(), label: Type.String() }),
  'recording taken in': act('person', { recording: id, title: Type.String() }),
  'remove recording': act('either', {
    ...{ recording: id, why: Type.String(), title: Type.String(), madeBy: Type.String(), startedAt: Type.String() },
    ...{ duration: Type.Number(), samples: Type.Integer() },
  }),
  'thin recording': act('server', { recording: id, before: Type.Integer(), after: Type.Integer() }),
  'keep recordings': act('person', { before: Keeping, after: Keeping }),
  'recorder armed': act('person', { arming: Arming }),
  'recorder ended': act('person', {}),
  // devices
  'pair device': act('person', { device: id }),
  'put out device': act('person', { device: id, name: Type.String() }),
} as const;

export type ActCode = keyof typeof acts;
export type ActDetail<A extends ActCode> = Static<(typeof acts)[A]['detail']>;
export const actCodes = Object.keys(acts) as ActCode[];
