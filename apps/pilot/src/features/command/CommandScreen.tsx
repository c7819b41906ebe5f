import { atRest, commandSentence, commandStage, holdText, lostText, otherSpeakers, sourceSentences, type MachineModel } from '@yare/commissioning';
import { InputJob } from '@yare/core';
import { say } from '@yare/words/pages/command';
import { useCommandNow, type CommandNow } from '../../data/commandNow';
import { useProofs, useProve } from '../../data/proofs';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { Permissives } from '../../machine/Permissives';
import { foldText, hasFinding, otherFindings, sectionEntries, SettingRows, SettingSections } from '../../machine/SettingSections';
import { StageFindings } from '../../machine/StageFindings';
import { writeOrGoOn } from '../../machine/writeOrGoOn';
import { Refusal } from '../../ui/Answer';
import type { Act } from '../../ui/bar';
import { Finding, Fold, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { useWide } from '../../ui/theme';
import { DriveWords } from './DriveWords';
import { TruthRows } from './TruthRows';
import { WaysToWire } from './WaysToWire';

const { sections = [] } = commandStage;

/** Who starts it and who sets its speed now, as the drive itself says, and who is not heard. */
function Now({ model, now }: { model: MachineModel; now: CommandNow | null }) {
  const { held } = model;
  if (!held || !now) return <Finding severity="warning" sentence={say.theDriveDoesNotAnswer} />;
  const first = now.told.held[0];
  const running = now.state === 'running' || now.state === 'asleep';
  return (
    <>
      <Finding
        severity={now.told.held.includes('tripped') ? 'error' : first && first !== 'not asked' && first !== 'borrowed' ? 'warning' : 'good'}
        sentence={[commandSentence(held, now.command), first ? holdText(held, first, now.command) : running ? say.itRuns : '']
          .filter(Boolean)
          .join(' ')}
      />
      {now.lost.map((l) => (
        <Finding key={`${l.what} ${l.from}`} severity="warning" sentence={lostText(held, l, now.command)} />
      ))}
    </>
  );
}

/** The proof that command is with the machine again. */
function useGivenBack(model: MachineModel, now: CommandNow | null): { act: Act | null; error: Error | null; text: string } {
  const { standing, newest } = useProofs(model)('command', 'given back');
  const prove = useProve(model);
  const { held } = model;
  if (standing.state === 'passed') return { act: null, error: null, text: say.givenBackSeenBy({ author: newest?.author ?? '' }) };
  const isBack = now?.holder === 'terminals' && held;
  return {
    act: isBack
      ? {
          text: say.countItGivenBack,
          main: true,
          hotkey: 'k',
          testID: 'given-back',
          onPress: () =>
            prove.mutate({
              stage: 'command',
              item: 'given back',
              outcome: 'passed',
              facts: { kind: 'givenBack' },
            }),
        }
      : null,
    error: prove.error,
    text: now?.holder === 'terminals' ? say.theDriveSaysThatNobody : say.commandIsStillOnThe,
  };
}

/** What would happen if each of the others spoke, from where things stand; of a phone in command, once it has given it back. */
function Others({ model, now }: { model: MachineModel; now: CommandNow | null }) {
  const settings = model.held ?? model.drafted;
  const others = otherSpeakers(settings, now ? { ...now, inputs: { ...now.inputs, borrowed: false } } : atRest(settings));
  return others.map((o) => <SheetRow key={o.id} label={o.who} second={o.would} testID={`other-${o.id.replace(/ /g, '-')}`} />);
}

function CommandSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const wide = useWide();
  const now = useCommandNow(model);
  const undo = useUndo(tag, 'draft');
  const back = useGivenBack(model, now);
  const shown = new Set(model.drafted.having(sections.flatMap((s) => s.roles)).map((s) => s.code));
  const local = model.drafted.jobs.includes(InputJob.local);
  const words = now && model.held ? <DriveWords held={model.held} now={now} /> : <Note>{say.theDriveDoesNotAnswer2}</Note>;
  return (
    <MachineFrame
      model={model}
      stage="command"
      title={say.command}
      entries={sectionEntries(model, 'command', sections)}
      acts={[undo, model.differing.length === 0 && back.act ? back.act : writeOrGoOn(model, 'command')]}
      evidenceTitle={say.theDrivesOwnWords}
      evidenceNote={say.asRead}
      evidence={words}
    >
      <SectionHead right={say.fromTheDriveLive}>{say.now}</SectionHead>
      <Now model={model} now={now} />
      <Refusal of={back.error} />
      <Note>{back.text}</Note>
      <StageFindings model={model} findings={otherFindings(model, 'command', shown)} />
      <SectionHead right={model.differing.length > 0 ? say.asDrafted : say.asSet}>{say.whoStartsItWhoSets}</SectionHead>
      {sourceSentences(model.drafted).map(({ mode, sentence }) => (
        <SheetRow key={mode} label={sentence} second={mode === 'remote' && !local ? '' : say.inText({ mode })} />
      ))}
      <SettingSections model={model} stage="command" sections={sections.filter((s) => s.id === 'sources' || (s.id === 'local' && local))} />
      <Fold title={say.whatHoldsItBack} right={holdCount(now)} open={false} testID="fold-permissives">
        <Permissives model={model} now={now} />
      </Fold>
      <Fold title={say.ifAnotherSpoke} right={say.nothingIsSent} open={false} testID="fold-others">
        <Others model={model} now={now} />
      </Fold>
      <Fold title={say.truthTable} right={say.everyCombination} open={false} testID="fold-truth">
        <TruthRows model={model} />
      </Fold>
      <Fold title={say.waysToWireIt} right={say.jobsAndSourcesInOne} open={false} testID="fold-ways">
        <WaysToWire model={model} />
      </Fold>
      {sections
        .filter((s) => s.id === 'signal' || s.id === 'starting')
        .map((section) => (
          <Fold
            key={section.id}
            title={section.title}
            right={foldText(model, section.roles)}
            open={hasFinding(model, section.roles)}
            testID={`fold-${section.id}`}
          >
            <SettingRows model={model} stage="command" section={section} />
          </Fold>
        ))}
      {!wide && (
        <Fold title={say.theDrivesOwnWords} right={say.asRead} open={false} testID="fold-words">
          {words}
        </Fold>
      )}
    </MachineFrame>
  );
}

const holdCount = (now: CommandNow | null): string => {
  const n = now?.told.held.length ?? 0;
  return now === null ? say.notKnown : n === 0 ? 'nothing' : say.thing({ n });
};

/** Where start and speed come from, what wins, and the proof that the phone has given command back. */
export const CommandScreen = machineScreen(CommandSheet);
