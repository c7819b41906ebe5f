import { guardInUse, guardProofs, guardSections, guardsFor, type GuardPlan, type MachineModel, type ProofDefinition } from '@yare/commissioning';
import type { SeenKind } from '@yare/commissioning/seen/guardsSeen';
import type { FactsOf, SeenFacts } from '@yare/contract';
import { atFullSpeed, formatFigure, type DriveParameters } from '@yare/core';
import { factsText, proofText } from '@yare/words';
import { guardNames } from '@yare/words/stages';
import { Fragment } from 'react';
import { say } from '@yare/words/pages/guards';
import { useFound, type LoadPoint } from '../../data/days';
import { useLive } from '../../data/live';
import { useProofs, useProve } from '../../data/proofs';
import { SettingRows } from '../../machine/SettingSections';
import { takeChanges } from '../../machine/takeChanges';
import { ActRow, Finding, Fold, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { when } from '../../ui/when';
import { Refusal } from '../../ui/Answer';
import { LoadRunRows, type LoadRunState } from '../../machine/LoadRun';

/** How each of the others is provoked. */
const provokes: Partial<Record<SeenKind, string>> = {
  feedback: say.letItRunInAuto,
  fill: 'Let the pressure out of the pipe, then start it in auto.',
  cleaning: say.letItRunInAuto2,
  frost: say.letItStandInAuto,
  runOn: say.letItRunThenTake,
};

/** How the family calls a trip. */
const tripNameOf =
  ({ drafted }: MachineModel) =>
  (code: number): string | undefined =>
    drafted.book.trips.find((t) => t.code === code)?.name;

/** How it acted, in words that follow *it*. */
const actText = (model: MachineModel, act: FactsOf<'guard'> | undefined): string | undefined => act && factsText(act, true, tripNameOf(model));

/** A test of a guard: how it is provoked, what was seen, and the touch that counts it. */
function ProofRows({ model, proof, provoke, seen }: { model: MachineModel; proof: ProofDefinition; provoke: string; seen: string | undefined }) {
  const { newest, standing } = useProofs(model)('guards', proof.id);
  const prove = useProve(model);
  const differs = model.differing.length > 0;
  if (standing.state === 'passed' && newest)
    return (
      <Finding
        severity="good"
        sentence={say.seenIt({ proofText: proofText(newest, tripNameOf(model)), author: newest.author, when: when(newest.at) })}
      />
    );
  return (
    <>
      <Refusal of={prove.error} />
      {seen === undefined ? (
        <Note>{say.proveItFirstWriteThe({ provoke, differs })}</Note>
      ) : (
        <Finding
          severity="act"
          sentence={say.seenJustNowItWrite({ seen, differs })}
          {...(!differs && {
            act: say.countItSeenToAct,
            onAct: () => prove.mutate({ stage: 'guards', item: proof.id, outcome: 'passed', facts: null }),
          })}
        />
      )}
    </>
  );
}

/** One guard: its settings, whether it is in use, and its own test. */
function GuardSection({ model, plan, seen }: { model: MachineModel; plan: GuardPlan; seen: SeenFacts<'guard'> }) {
  const { drafted } = model;
  const used = guardInUse(drafted.controls().guards, plan.kind);
  const proof = guardProofs({ settings: drafted, driven: model.machine.driven }).find((p) => p.id === plan.kind);
  const { standing } = useProofs(model)('guards', plan.kind);
  const found = model.findings.some(
    (f) => f.stage === 'guards' && f.severity !== 'good' && drafted.having(plan.roles).some((s) => s.code === f.code),
  );
  return (
    <Fold
      title={guardNames[plan.kind]}
      right={!used ? 'off' : standing.state === 'passed' ? say.seenToAct : standing.state === 'stale' ? say.changedSince : say.notSeenYet}
      open={found || (used && standing.state !== 'passed')}
      testID={`guard-${plan.kind}`}
    >
      <SettingRows model={model} stage="guards" section={{ id: plan.kind, title: guardNames[plan.kind], roles: plan.roles }} />
      {proof && <ProofRows model={model} proof={proof} provoke={plan.provoke} seen={actText(model, seen[plan.kind])} />}
    </Fold>
  );
}

/** Torque at rated frequency that a run against the shut valve shows, over rated. */
const shutLoadOf = (points: readonly LoadPoint[], { motorFrequency }: DriveParameters): number =>
  atFullSpeed(points.map((p) => ({ share: p.frequency / motorFrequency, figure: p.torque / 100 })));

/** What the machine takes: against a shut valve, and as it usually runs; measured by a run. */
export function LoadRows({ model, s }: { model: MachineModel; s: LoadRunState }) {
  const { drafted, machine } = model;
  const { shut, usual } = useFound(machine.tag);
  const pump = machine.driven.kind === 'pump' && drafted.find('shutLoad') !== undefined;
  const curve = drafted.having(['loadCurve1', 'loadCurve2', 'loadCurve3']);
  const shutChange = shut && pump ? drafted.change('shutLoad', shutLoadOf(shut, drafted.parameters()), 'measured') : [];
  const usualChange = usual
    ? (['loadCurve1', 'loadCurve2', 'loadCurve3'] as const).flatMap((r, i) => drafted.change(r, (usual[i]?.torque ?? 0) / 100, 'measured'))
    : [];
  const differs = (changes: typeof shutChange) => changes.some((c) => drafted.values[c.code] !== c.value);
  const row = (p: LoadPoint) => (
    <SheetRow
      key={p.frequency}
      label={say.hz({ frequency: p.frequency })}
      second={say.feedback({ feedback: p.feedback })}
      figure={formatFigure(p.torque, 0)}
      unit="%"
    />
  );
  return (
    <>
      {pump && (
        <>
          <SectionHead right={say.torqueOfRated}>{say.againstAShutValve}</SectionHead>
          <Note>{say.aPumpAgainstAShut}</Note>
          <SettingRows model={model} stage="guards" section={{ id: 'shut', title: '', roles: ['shutLoad'] }} />
          <ActRow
            text={s.open === 'shut' ? say.shutTheRun : say.runItAgainstTheShut}
            second={say.holdToRunItNotes}
            disabled={s.turning}
            onPress={() => s.setOpen(s.open === 'shut' ? null : 'shut')}
            testID="shut-run"
          />
          {s.open === 'shut' && <LoadRunRows model={model} s={s} />}
          {shut?.map(row)}
          {differs(shutChange) && (
            <Finding
              severity="act"
              sentence={say.theRunShowsAtRated({ shutLoadOf: 100 * shutLoadOf(shut ?? [], drafted.parameters()) })}
              act={say.takeItIntoTheDraft}
              onAct={() => takeChanges(model, shutChange)}
            />
          )}
        </>
      )}
      {curve.length === 3 && (
        <>
          <SectionHead right={say.torqueOfRated}>{say.usualLoad}</SectionHead>
          <SettingRows model={model} stage="guards" section={{ id: 'curve', title: '', roles: ['loadCurve1', 'loadCurve2', 'loadCurve3'] }} />
          <ActRow
            text={s.open === 'usual' ? say.shutTheRun : say.runItAsItUsually}
            second={say.holdToRunThreeSpeeds}
            disabled={s.turning}
            onPress={() => s.setOpen(s.open === 'usual' ? null : 'usual')}
            testID="usual-run"
          />
          {s.open === 'usual' && <LoadRunRows model={model} s={s} />}
          {usual?.map(row)}
          {differs(usualChange) && (
            <Finding
              severity="act"
              sentence={say.theRunShowsOtherLoads}
              act={say.takeThemIntoTheDraft}
              onAct={() => takeChanges(model, usualChange)}
            />
          )}
        </>
      )}
    </>
  );
}

/** The pressure of a clean filter, taken from the fan as it runs now: it goes with the square of the speed. */
function CleanAirRow({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const live = useLive([tag])(tag);
  const runs = live?.link === 'up' && live.state === 'running';
  const { maximumFrequency } = (model.held ?? model.drafted).parameters();
  const share = runs ? Math.abs(live.outputFrequency) / maximumFrequency : 0;
  const enough = share > 0.4;
  const air = enough && live ? atFullSpeed([{ share, figure: live.feedback / 100 }]) : 0;
  return (
    <ActRow
      text={say.theFilterIsCleanNow}
      second={enough ? say.atFullSpeedFromHz({ air: 100 * air, outputFrequency: live?.outputFrequency }) : say.letItRunFasterThan}
      disabled={!enough || air <= 0 || air > 1}
      onPress={() => takeChanges(model, model.drafted.change('cleanAir', air, 'measured'))}
      testID="clean-air"
    />
  );
}

/** What else a drive does by itself, each with its own test. */
const tested: Readonly<Record<string, SeenKind>> = { fill: 'fill', runOn: 'runOn', clean: 'cleaning', frost: 'frost' };

/** All guards this drive has and this machine can use, then what it does by itself. */
export function GuardRows({ model, seen }: { model: MachineModel; seen: SeenFacts<'guard'> }) {
  const { drafted, machine } = model;
  const of = { settings: drafted, driven: machine.driven };
  const proofs = guardProofs(of);
  const feedback = proofs.find((p) => p.id === 'feedback');
  const fan = machine.driven.kind === 'fan';
  const pump = machine.driven.kind === 'pump';
  const sections = guardSections.filter(
    (s) => drafted.having(s.roles).length > 0 && (s.id !== 'filter' || fan) && (!['fill', 'clean', 'frost'].includes(s.id) || pump),
  );
  return (
    <>
      {guardsFor(of).map((plan) => (
        <GuardSection key={plan.kind} model={model} plan={plan} seen={seen} />
      ))}
      {feedback && (
        <>
          <SectionHead>{say.aBrokenSensorWire}</SectionHead>
          <SettingRows model={model} stage="guards" section={{ id: 'feedback', title: '', roles: ['liveZeroLoss'] }} />
          <ProofRows model={model} proof={feedback} provoke={provokes.feedback ?? ''} seen={actText(model, seen.feedback)} />
        </>
      )}
      {sections.map((s) => {
        const kind = tested[s.id];
        const proof = proofs.find((p) => p.id === kind);
        const seenText = kind === undefined ? undefined : actText(model, seen[kind]);
        return (
          <Fragment key={s.id}>
            <Fold
              title={s.title}
              right={proof ? say.inUse : s.id === 'after' || s.id === 'filter' ? '' : 'off'}
              open={proof !== undefined}
              testID={`by-itself-${s.id}`}
            >
              <SettingRows model={model} stage="guards" section={s} />
              {s.id === 'filter' && <CleanAirRow model={model} />}
              {proof && kind && <ProofRows model={model} proof={proof} provoke={provokes[kind] ?? ''} seen={seenText} />}
            </Fold>
          </Fragment>
        );
      })}
    </>
  );
}
