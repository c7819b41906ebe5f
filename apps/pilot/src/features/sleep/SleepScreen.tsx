import { useState } from 'react';
import { maySleep, sensorOf, sleepStage, usesProcess, type MachineModel } from '@yare/commissioning';
import { proofText } from '@yare/words';
import { say } from '@yare/words/pages/sleep';
import { editDraft } from '../../data/edits';
import { useFound } from '../../data/days';
import { useProofs } from '../../data/proofs';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { otherFindings, sectionEntries, SettingSections } from '../../machine/SettingSections';
import { StageFindings } from '../../machine/StageFindings';
import { writeOrGoOn } from '../../machine/writeOrGoOn';
import { Refusal } from '../../ui/Answer';
import { go } from '../../ui/go';
import { ActRow, Finding, Note } from '../../ui/sheet';
import { useWide } from '../../ui/theme';
import { when } from '../../ui/when';
import { loadRunFoot, useLoadRun } from '../../machine/LoadRun';
import { DayRows } from './DayRows';
import { drawEntry, DrawRows } from './DrawRows';
import { useSleeps } from './sleeps';

const { sections = [] } = sleepStage;

/** Why there is nothing to set: another source of speed, or a family that never sleeps. */
function NotUsed({ model }: { model: MachineModel }) {
  const { drafted, machine } = model;
  if (!drafted.find('sleepFrequency')) return <Note>{say.doesNotSleepItRuns({ family: drafted.book.family })}</Note>;
  return (
    <>
      <Note>{say.onlyAProcessLetsA}</Note>
      <ActRow text={say.goToCommand} second={say.letTheProcessSetThe} onPress={() => go(`/m/${machine.tag}/command`)} />
    </>
  );
}

function SleepSheet({ model }: { model: MachineModel }) {
  const { machine, drafted } = model;
  const { tag, driven } = machine;
  const wide = useWide();
  const undo = useUndo(tag, 'draft');
  const sleeps = useSleeps(model);
  const run = useLoadRun(model);
  const { draw } = useFound(tag);
  const [typed, setTyped] = useState<number | null>(null);
  const rated = driven.kind === 'pump' ? driven.flow : 10;
  const flow = typed ?? draw?.flow ?? Number((0.1 * rated).toPrecision(2));
  const entry = drawEntry(tag, flow, rated, setTyped);
  const { newest, standing } = useProofs(model)('sleep', 'sleeps');
  const sensor = sensorOf(driven);
  const used = usesProcess({ settings: drafted }) && drafted.find('sleepFrequency') !== undefined;
  const may = maySleep({ settings: drafted });
  const shown = new Set(drafted.having(sections.flatMap((s) => s.roles)).map((s) => s.code));
  const at = drafted.find('sleepFrequency');
  const day = <DayRows model={model} />;
  return (
    <MachineFrame
      model={model}
      stage="sleep"
      title={say.sleepAndWake}
      entries={used ? [...sectionEntries(model, 'sleep', sections), entry] : []}
      acts={[undo, sleeps.act && standing.state !== 'passed' ? sleeps.act : writeOrGoOn(model, 'sleep')]}
      foot={loadRunFoot(tag, run)}
      evidenceTitle={say.theDayAhead}
      evidenceNote="estimated"
      evidence={used ? day : null}
    >
      <Refusal of={sleeps.error} />
      {!used && <NotUsed model={model} />}
      {used && (
        <>
          {standing.state === 'passed' && newest ? (
            <Finding
              severity="good"
              sentence={say.seenToSleepAndWake({ author: newest.author, when: when(newest.at), proofText: proofText(newest) })}
            />
          ) : (
            may && <Finding severity="act" sentence={sleeps.sentence} />
          )}
          {!may && at && (
            <Finding
              severity="act"
              sentence={say.withASleepSpeedOf}
              act={say.letItSleep}
              onAct={() => {
                const [change] = drafted.change('sleepFrequency', drafted.parameters().motorFrequency * 0.8, 'chosen');
                if (change)
                  editDraft(tag, { [change.code]: { value: change.value, source: 'chosen' } }, { [change.code]: model.draftOf(change.code) });
              }}
            />
          )}
          <StageFindings model={model} findings={otherFindings(model, 'sleep', shown)} />
          <SettingSections model={model} stage="sleep" sections={sections} />
          {!wide && day}
          {sensor && <DrawRows model={model} sensor={sensor} signal={drafted.roleValue('analogueSignal')} s={run} entry={entry} flow={flow} />}
        </>
      )}
    </MachineFrame>
  );
}

/** When a pump may stand still and when it must run again, with the whole day ahead. */
export const SleepScreen = machineScreen(SleepSheet);
