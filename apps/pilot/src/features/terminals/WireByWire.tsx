import { wireSteps, wireText, type MachineModel } from '@yare/commissioning';
import type { Wiring } from '@yare/contract';
import { useProve } from '../../data/proofs';
import { useStill } from '../../data/wiring';
import { Refusal } from '../../ui/Answer';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { ProofShape } from '../../ui/shapes';
import { useWireCheck } from './useWireCheck';

/** The guided check: command is taken at rest so that nothing starts, and each contact is worked while its input is watched. */
export function WireByWire({ model, wiring, onDone }: { model: MachineModel; wiring: Wiring; onDone: () => void }) {
  const { tag } = model.machine;
  const settings = model.held ?? model.drafted;
  const steps = wireSteps(settings, wiring);
  const { error, kept } = useStill(tag, true);
  const check = useWireCheck(tag, steps, settings.inputs.length, kept);
  const prove = useProve(model);
  const right = steps.filter((s) => check.verdicts.get(s.input)?.kind === 'right').length;
  const all = right === steps.length && steps.length > 0;
  const finish = () =>
    prove.mutate(
      {
        stage: 'terminals',
        item: 'wires',
        outcome: 'passed',
        expected: `${steps.length} inputs answer what hangs there`,
        measured: steps.map((s) => `${s.terminal} ${s.device.label}`).join(', '),
      },
      { onSuccess: onDone },
    );
  return (
    <>
      <SectionHead right={`${check.verdicts.size} of ${steps.length} tried`}>Wire by wire</SectionHead>
      <Refusal of={error} />
      <Refusal of={prove.error} />
      {!error && !kept && <Note>Taking command at rest, so that nothing starts while you press…</Note>}
      {kept && check.step && (
        <>
          <Finding
            severity="act"
            sentence={`${check.step.terminal}: ${check.step.ask}${check.answering ? ' It answers: watching whether it is steady…' : ' Nothing starts by it.'}`}
          />
          <ActRow
            text="I worked it and nothing answered"
            second={`${check.step.terminal} stays as it was`}
            onPress={check.nothing}
            testID="wire-nothing"
          />
        </>
      )}
      {kept &&
        !check.step &&
        (all ? (
          <Finding severity="good" sentence="Every input answers what hangs there." />
        ) : (
          <Finding
            severity="error"
            sentence={`${steps.length - right} of ${steps.length} inputs do not answer as drawn. Put them right and try those again.`}
          />
        ))}
      {all && (
        <ActRow
          text="Count it as the proof of the wires"
          second="kept with your name; command goes back to the machine"
          onPress={finish}
          testID="wire-proof"
        />
      )}
      {steps.map((s) => {
        const v = check.verdicts.get(s.input);
        return (
          <SheetRow
            key={s.terminal}
            label={`${s.terminal} ${s.device.label}`}
            second={v ? wireText(s, v) : `${s.device.device}, ${s.device.atRest} at rest`}
            mark={<ProofShape proof={v ? (v.kind === 'right' ? 'proved' : 'act') : s === check.step ? 'stale' : 'not yet'} />}
            {...(v && v.kind !== 'right' && { text: 'Again', onPress: () => check.again(s) })}
            testID={`wire-${s.terminal}`}
          />
        );
      })}
      <ActRow text="Stop trying and give command back" onPress={onDone} testID="wire-stop" />
    </>
  );
}
