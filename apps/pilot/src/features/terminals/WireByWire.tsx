import { useMemo } from 'react';
import { notAtRest, wireSteps, wireText, type MachineModel, type WireStep, type WireVerdicts } from '@yare/commissioning';
import type { Wiring } from '@yare/contract';
import { say } from '@yare/words/pages/terminals';
import { useProve } from '../../data/proofs';
import { groundsOf, useNoted } from '../../data/seen';
import { useStill } from '../../data/wiring';
import { Refusal } from '../../ui/Answer';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { ProofShape } from '../../ui/shapes';
import { useWireCheck, type WireCheck } from './useWireCheck';

const nothingFound: WireVerdicts = {};
const wire = ({ terminal, device }: WireStep) => ({ terminal, device: device.label });
const named = (steps: readonly WireStep[]): string => steps.map((s) => `${s.device.label} (${s.terminal})`).join(', ');

/** What was found of each input, kept until what it rests on changes. */
export const useWiresFound = (model: MachineModel, wiring: Wiring) =>
  useNoted<WireVerdicts>(
    say.terminalsWires({ tag: model.machine.tag }),
    `${groundsOf(model, 'terminals', ['wires'])} ${JSON.stringify(wiring.inputs)}`,
    nothingFound,
  );

/** Before anything is judged a person says that nobody works anything. */
function AtRest({ check, steps }: { check: WireCheck; steps: readonly WireStep[] }) {
  const otherwise = notAtRest(steps, check.state);
  return (
    <>
      <Finding
        severity="act"
        sentence={
          otherwise.length === 0
            ? say.firstPutEverythingAtRest
            : say.firstPutEverythingAtRest2({ named: named(otherwise), otherwise: otherwise.length })
        }
      />
      <ActRow
        text={say.everythingIsAtRest}
        second={otherwise.length === 0 ? say.allInputsStandAsThey : say.andTheseStillStandOtherwise}
        onPress={check.atRest}
        testID="wire-at-rest"
      />
    </>
  );
}

/** The contact that is asked for now. */
function AskFor({ step, check }: { step: WireStep; check: WireCheck }) {
  const { stage, nothing } = check.state;
  const now = stage === 'moving' ? say.itAnswersLetGoOr : nothing > 0 ? say.nothingAnsweredWorkItOnce : say.nothingStartsByIt;
  return (
    <>
      <Finding severity="act" sentence={`${step.terminal}: ${step.ask}${now}`} />
      {stage !== 'moving' && (
        <ActRow
          text={say.iWorkedItAndNothing}
          second={nothing > 0 ? say.isThenNotedAsNot({ terminal: step.terminal }) : say.staysAsItWasIt({ terminal: step.terminal })}
          onPress={check.nothing}
          testID="wire-nothing"
        />
      )}
      <ActRow text={say.skipIt} second={say.itCannotBeWorkedNow} onPress={check.skip} testID="wire-skip" />
    </>
  );
}

/** The guided check: command is taken at rest so that nothing starts, and each contact is worked there and back while the inputs are watched. */
export function WireByWire({ model, wiring, onDone }: { model: MachineModel; wiring: Wiring; onDone: () => void }) {
  const { tag } = model.machine;
  const settings = model.held ?? model.drafted;
  const steps = useMemo(() => wireSteps(settings, wiring), [settings, wiring]);
  const { error, kept, giveBack } = useStill(tag);
  const noted = useWiresFound(model, wiring);
  const { found } = noted;
  const check = useWireCheck(tag, steps, kept, noted);
  const prove = useProve(model);
  const tried = steps.filter((s) => found[s.input] !== undefined);
  const right = steps.filter((s) => found[s.input]?.kind === 'right');
  const skipped = steps.filter((s) => found[s.input]?.kind === 'skipped');
  const wrong = tried.length - right.length - skipped.length;
  const all = right.length > 0 && right.length + skipped.length === steps.length;
  const pressed = check.state.rest !== null && steps.some((s) => check.state.rest?.[s.input] !== check.state.last[s.input]);
  const stop = () => giveBack.mutate(undefined, { onSuccess: onDone });
  const finish = () =>
    prove.mutate(
      {
        stage: 'terminals',
        item: 'wires',
        outcome: 'passed',
        facts: { kind: 'wires', right: right.map(wire), untried: skipped.map(wire) },
      },
      {
        onSuccess: () => {
          noted.forget();
          stop();
        },
      },
    );
  return (
    <>
      <SectionHead right={say.ofTried({ tried: tried.length, steps: steps.length })}>{say.wireByWire}</SectionHead>
      <Refusal of={error ?? giveBack.error} />
      <Refusal of={prove.error} />
      {!error && !kept && <Note>{say.takingCommandAtRestSo}</Note>}
      {kept && <Note>{say.buttonsAndSwitchesStartNothing}</Note>}
      {kept && check.state.stage === 'rest' && <AtRest check={check} steps={steps} />}
      {kept && check.state.stage !== 'rest' && check.step && <AskFor step={check.step} check={check} />}
      {kept &&
        !check.step &&
        (all ? (
          <Finding
            severity="good"
            sentence={skipped.length > 0 ? say.everyInputThatWasTried({ named: named(skipped) }) : say.everyInputAnswersWhatHangs}
          />
        ) : (
          <Finding severity="error" sentence={say.ofInputsDoNotAnswer({ wrong, steps: steps.length })} />
        ))}
      {all && <ActRow text={say.countItAsTheProof} second={say.keptWithYourNameCommand} disabled={pressed} onPress={finish} testID="wire-proof" />}
      {steps.map((s) => {
        const v = found[s.input];
        return (
          <SheetRow
            key={s.terminal}
            label={`${s.terminal} ${s.device.label}`}
            second={v ? wireText(s, v, steps, found) : say.atRest({ device: s.device.device, atRest: s.device.atRest })}
            mark={
              <ProofShape
                proof={v ? (v.kind === 'right' ? 'proved' : v.kind === 'skipped' ? 'not yet' : 'act') : s === check.step ? 'stale' : 'not yet'}
              />
            }
            {...(v && v.kind !== 'right' && { text: say.again, onPress: () => check.again(s) })}
            testID={`wire-${s.terminal}`}
          />
        );
      })}
      <ActRow
        text={say.giveCommandBackToThe}
        second={pressed ? say.letGoOfEveryButton : say.fromThenOnItsButtons}
        disabled={pressed}
        onPress={stop}
        testID="wire-stop"
      />
    </>
  );
}
