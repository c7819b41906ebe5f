import { unsureInertia, type MachineModel } from '@yare/commissioning';
import { formatFigure } from '@yare/core';
import { say } from '@yare/words/pages/motion';
import type { LookAheadState } from '../../data/lookAhead';
import { go } from '../../ui/go';
import { Finding } from '../../ui/sheet';
import { safeStopOffer } from './safeStopOffer';

/** Times the shortest safe stop from which on a stop is so gentle that a quicker one tells noticeably more. */
const gentle = 1.1;

/** A fitted model that knows its inertia badly, and what comes next: the stop of another run is set, then written, then held. */
export function UnsureFit({ model, ahead }: { model: MachineModel; ahead: LookAheadState }) {
  const percent = unsureInertia(model);
  const setting = model.drafted.find('decelerationTime');
  if (percent === null || !setting) return null;
  const { tag } = model.machine;
  const offer = safeStopOffer(model, setting, ahead, gentle);
  const seconds = (x: number) => `${formatFigure(x, setting.decimals)} s`;
  const written = !model.differing.some((s) => s.code === setting.code);
  const next = offer
    ? { act: say.setTheStopTo({ seconds: seconds(offer.value) }), onAct: offer.take }
    : written
      ? { act: say.goToTestRun, onAct: () => go(`/m/${tag}/turn`) }
      : { act: say.goToWrite, onAct: () => go(`/m/${tag}/write`) };
  return (
    <Finding
      severity="warning"
      sentence={say.theFittedRunTellsThe({ percent, seconds: seconds(offer?.value ?? model.draftOf(setting.code).value) })}
      {...(!ahead.busy && next)}
    />
  );
}
