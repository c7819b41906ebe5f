import { View } from '@tamagui/core';
import { useEffect, useMemo, useState } from 'react';
import { lookAheadBand, motionFindings, motionStage, type BandQuantity, type MachineModel, type Section } from '@yare/commissioning';
import type { LookAhead, WhatIf } from '@yare/core';
import { say } from '@yare/words/pages/motion';
import { useLookAhead } from '../../data/lookAhead';
import { writeOrGoOn } from '../../machine/writeOrGoOn';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { settingEntry } from '../../machine/SettingRow';
import { foldText } from '../../machine/SettingSections';
import { go } from '../../ui/go';
import { Finding, Fold } from '../../ui/sheet';
import { Second } from '../../ui/text';
import { useWide } from '../../ui/theme';
import { AheadChart } from './AheadChart';
import { MotionRow } from './MotionRow';
import { StopArithmetic } from './StopArithmetic';
import { UnsureFit } from './UnsureFit';
import { WhatIfRows } from './WhatIf';

const { sections = [] } = motionStage;

/** The settings of Motion that this drive has, each with its role. */
const settingsOf = (model: MachineModel) =>
  sections
    .flatMap((section) => section.roles)
    .flatMap((role) => {
      const setting = model.drafted.find(role);
      return setting ? [{ role, setting }] : [];
    });

function MotionSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const wide = useWide();
  const spec = model.draftSpec.ok ? model.draftSpec.spec : null;
  const ahead = useLookAhead(spec, model.differing.length > 0 ? model.inDriveSpec : null, { learned: model.learned });
  const undo = useUndo(tag, 'draft');
  const settings = useMemo(() => settingsOf(model), [model]);
  const entries = settings.filter((s) => !s.setting.options).map((s) => settingEntry(model, s.setting, 'motion'));
  const [drawn, setDrawn] = useState<{ question: WhatIf; ahead: LookAhead } | null>(null);
  useEffect(() => setDrawn(null), [ahead.draft]);
  const learned = model.learned !== null;
  const { kind } = model.machine.driven;
  const findings = useMemo(
    () => (spec && ahead.draft ? motionFindings(spec, ahead.draft, (quantity: BandQuantity) => lookAheadBand(kind, learned, quantity)) : []),
    [spec, ahead.draft, kind, learned],
  );

  // a question's answer is drawn only as long as the figures it was asked with stand
  const chart = <AheadChart state={drawn ? { ...ahead, draft: drawn.ahead, inDrive: null } : ahead} spec={spec} />;
  const source = learned ? say.learnedFromARecording : say.estimateFromThePlate;
  return (
    <MachineFrame
      model={model}
      stage="motion"
      title={say.motion}
      entries={entries}
      acts={[undo, writeOrGoOn(model, 'motion')]}
      evidenceTitle={say.lookAheadStartRunStop}
      evidenceNote={ahead.busy ? say.computing : source}
      evidence={
        <>
          {chart}
          {spec && ahead.draft && (
            <StopArithmetic spec={spec} ahead={ahead.draft} shortest={ahead.stopping?.without ?? null} took={ahead.took} learned={learned} />
          )}
        </>
      }
    >
      {!model.draftSpec.ok && (
        <Finding severity="error" sentence={say.noLookAhead({ sentence: model.draftSpec.sentence })} {...wayOut(tag, model.draftSpec.about)} />
      )}
      {!wide && spec && (
        <>
          <View flexDirection="row" justifyContent="space-between" paddingHorizontal={14} paddingVertical={6} backgroundColor="$sheet">
            <Second>{say.lookAheadStartRunStop}</Second>
            <Second>{ahead.busy ? 'computing…' : source}</Second>
          </View>
          {chart}
        </>
      )}
      <UnsureFit model={model} ahead={ahead} />
      {sections
        .filter((section) => section.roles.some((role) => settings.some((s) => s.role === role)))
        .map((section) => (
          <Fold
            key={section.title}
            title={section.title}
            right={foldText(model, section.roles)}
            open={opensAtFirst(model, section)}
            testID={`fold-${section.title}`}
          >
            {settings
              .filter((s) => section.roles.includes(s.role))
              .map((row) => (
                <MotionRow key={row.role} model={model} {...row} ahead={ahead} findings={findings} />
              ))}
          </Fold>
        ))}
      {spec && ahead.draft && (
        <WhatIfRows
          model={model}
          spec={spec}
          state={ahead}
          shown={drawn?.question ?? null}
          onShow={(question, answer) => setDrawn(question && answer ? { question, ahead: answer } : null)}
        />
      )}
    </MachineFrame>
  );
}

/** Where a look-ahead that cannot be made is cured: on the survey, when what is driven is to blame. */
const wayOut = (tag: string, about: 'driven' | undefined) =>
  about === 'driven'
    ? { act: say.goToTheSurvey, onAct: () => go(`/m/${tag}/survey`) }
    : { act: say.goToThePlate, onAct: () => go(`/m/${tag}/plate`) };

/** Ramps, limits and stopping lie open, and whatever something is wrong with. */
const opensAtFirst = (model: MachineModel, section: Section): boolean =>
  alwaysOpen.has(section.id) ||
  model.drafted.having(section.roles).some((s) => model.findings.some((f) => f.stage === 'motion' && f.code === s.code && f.severity !== 'good'));

const alwaysOpen: ReadonlySet<string> = new Set(['ramps', 'limits', 'stopping']);

/** How the machine starts, runs and stops, with the look-ahead that redraws as the figures change. */
export const MotionScreen = machineScreen(MotionSheet);
