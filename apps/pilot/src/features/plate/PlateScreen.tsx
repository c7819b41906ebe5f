import { useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { say } from '@yare/words/pages/plate';
import { goOn } from '../../machine/goOn';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import type { Act } from '../../ui/bar';
import { Finding, Note, SectionHead } from '../../ui/sheet';
import { useWide } from '../../ui/theme';
import { CircuitSection, Curves } from './CircuitSection';
import { KeptWithPlate } from './KeptWithPlate';
import { usePlate, type PlateState } from './plateEdit';
import { plateEntries, StampedRows } from './StampedRows';
import { FormulaBlock, WorkedOutRows } from './WorkedOutRows';

/** Copying what the draft has otherwise comes before going on. */
const mainAct = (tag: string, { copies, sound, copyToDraft }: PlateState): Act =>
  copies.length > 0
    ? {
        text: say.copyFigureToTheDraft({ copies: copies.length }),
        main: true,
        hotkey: 'c',
        disabled: !sound,
        onPress: copyToDraft,
        testID: 'plate-copy',
      }
    : goOn(tag, 'plate', { disabled: !sound });

function PlateSheet({ model }: { model: MachineModel }) {
  const { plate } = model;
  const { tag } = model.machine;
  const wide = useWide();
  const [formula, setFormula] = useState('input');
  const [opened, setOpened] = useState<string | null>(null);
  const undo = useUndo(tag, 'plate');
  const state = usePlate(model);
  const { solved } = state;
  const shown = solved?.rows.find((r) => r.key === formula) ?? solved?.rows[0];
  return (
    <MachineFrame
      model={model}
      stage="plate"
      title={say.plate}
      acts={[undo, mainAct(tag, state)]}
      entries={plateEntries(model).map(({ entry }) => entry)}
      evidenceTitle={shown ? say.formula({ label: shown.label.toLowerCase() }) : say.formula2}
      evidenceNote={shown?.estimate ? 'estimate' : ''}
      evidence={
        <>
          {shown && <FormulaBlock row={shown} />}
          {solved?.estimate.ok && <Curves plate={plate} estimate={solved.estimate} />}
        </>
      }
    >
      <StampedRows model={model} state={state} />
      <SectionHead>{say.workedOut}</SectionHead>
      {!solved && <Note>{say.thePlateContradictsItselfNothing}</Note>}
      {solved && (
        <WorkedOutRows
          rows={solved.rows}
          shown={shown}
          opened={opened}
          beside={wide}
          onTouch={(key) => {
            setFormula(key);
            setOpened(opened === key ? null : key);
          }}
        />
      )}
      <SectionHead right={say.estimateFromThePlate}>{say.equivalentCircuit}</SectionHead>
      {solved && !solved.estimate.ok && <Finding severity="error" sentence={solved.estimate.sentence} />}
      {solved?.estimate.ok && <CircuitSection solved={solved.estimate} plate={plate} />}
      <KeptWithPlate model={model} />
    </MachineFrame>
  );
}

/** The nameplate as stamped, what does not fit on it, and the motor it tells of. */
export const PlateScreen = machineScreen(PlateSheet);
