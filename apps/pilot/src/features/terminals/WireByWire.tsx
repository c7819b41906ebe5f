import { useMemo } from 'react';
import { notAtRest, wireSteps, wireText, type MachineModel, type WireStep, type WireVerdicts } from '@yare/commissioning';
import type { Wiring } from '@yare/contract';
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
    `${model.machine.tag} terminals wires`,
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
            ? 'First put everything at rest: no button pressed, the selector off, every switch as it usually stands.'
            : `First put everything at rest: no button pressed, the selector off, every switch as it usually stands. ${named(otherwise)} ${otherwise.length === 1 ? 'does' : 'do'} not stand at rest now.`
        }
      />
      <ActRow
        text="Everything is at rest"
        second={otherwise.length === 0 ? 'all inputs stand as they should' : 'and these still stand otherwise: tried one by one, they tell why'}
        onPress={check.atRest}
        testID="wire-at-rest"
      />
    </>
  );
}

/** The contact that is asked for now. */
function AskFor({ step, check }: { step: WireStep; check: WireCheck }) {
  const { stage, nothing } = check.state;
  const now =
    stage === 'moving'
      ? ' It answers. Let go or turn it back: it is judged once everything stands as before.'
      : nothing > 0
        ? ' Nothing answered. Work it once more and hold it for a full second.'
        : ' Nothing starts by it.';
  return (
    <>
      <Finding severity="act" sentence={`${step.terminal}: ${step.ask}${now}`} />
      {stage !== 'moving' && (
        <ActRow
          text="I worked it and nothing answered"
          second={nothing > 0 ? `${step.terminal} is then noted as not answering` : `${step.terminal} stays as it was; it is asked for once more`}
          onPress={check.nothing}
          testID="wire-nothing"
        />
      )}
      <ActRow text="Skip it" second="it cannot be worked now; it stays untried" onPress={check.skip} testID="wire-skip" />
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
      <SectionHead right={`${tried.length} of ${steps.length} tried`}>Wire by wire</SectionHead>
      <Refusal of={error ?? giveBack.error} />
      <Refusal of={prove.error} />
      {!error && !kept && <Note>Taking command at rest, so that nothing starts while you press…</Note>}
      {kept && (
        <Note>
          Buttons and switches start nothing while this page is open and for a minute after it is left or the phone locked. If the server or its link
          is lost, the panel has command again within a second.
        </Note>
      )}
      {kept && check.state.stage === 'rest' && <AtRest check={check} steps={steps} />}
      {kept && check.state.stage !== 'rest' && check.step && <AskFor step={check.step} check={check} />}
      {kept &&
        !check.step &&
        (all ? (
          <Finding
            severity="good"
            sentence={
              skipped.length > 0
                ? `Every input that was tried answers what hangs there. Not tried: ${named(skipped)}.`
                : 'Every input answers what hangs there.'
            }
          />
        ) : (
          <Finding severity="error" sentence={`${wrong} of ${steps.length} inputs do not answer as drawn. Put them right and try those again.`} />
        ))}
      {all && (
        <ActRow
          text="Count it as the proof of the wires"
          second="kept with your name; command goes back to the machine"
          disabled={pressed}
          onPress={finish}
          testID="wire-proof"
        />
      )}
      {steps.map((s) => {
        const v = found[s.input];
        return (
          <SheetRow
            key={s.terminal}
            label={`${s.terminal} ${s.device.label}`}
            second={v ? wireText(s, v, steps, found) : `${s.device.device}, ${s.device.atRest} at rest`}
            mark={
              <ProofShape
                proof={v ? (v.kind === 'right' ? 'proved' : v.kind === 'skipped' ? 'not yet' : 'act') : s === check.step ? 'stale' : 'not yet'}
              />
            }
            {...(v && v.kind !== 'right' && { text: 'Again', onPress: () => check.again(s) })}
            testID={`wire-${s.terminal}`}
          />
        );
      })}
      <ActRow
        text="Give command back to the panel"
        second={
          pressed
            ? 'let go of every button first: from then on they start it'
            : 'from then on its buttons and switches start it again; what was found stays here'
        }
        disabled={pressed}
        onPress={stop}
        testID="wire-stop"
      />
    </>
  );
}
