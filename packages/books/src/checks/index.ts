import { Look, type Checked, type StageFinding } from './look';
import { commandFindings, motionSettingFindings } from './motion';
import { driveFindings, plateFindings } from './plate';
import { protectionFindings } from './protection';

export type { Checked, CheckedStage, StageFinding } from './look';

/** Everything that does not fit between plate, drive, supply and draft, each with its sentence and its way out. Pure. */
export function stageFindings(c: Checked): StageFinding[] {
  const look = new Look(c);
  return [...plateFindings(look), ...driveFindings(look), ...protectionFindings(look), ...motionSettingFindings(look), ...commandFindings(look)];
}
