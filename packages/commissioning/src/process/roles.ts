import type { SettingRole } from '@yare/core';

/** What makes a loop, in the order it is read: what it holds, what it makes of its feedback, how it answers, how far it may go. */
export const loopRoles: readonly SettingRole[] = [
  'setpoint',
  'secondSetpoint',
  'setpointSource',
  'setpointRamp',
  'setpointLow',
  'setpointHigh',
  'straightening',
  'feedbackGain',
  'feedbackOffset',
  'proportionalGain',
  'integralTime',
  'derivativeTime',
  'processAction',
  'processLow',
  'processHigh',
];
