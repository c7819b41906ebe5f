/** Power drive states after IEC 61800-7-201 (CiA 402). */
export const DriveState = {
  notReady: 0,
  switchOnDisabled: 1,
  ready: 2,
  switchedOn: 3,
  operationEnabled: 4,
  quickStop: 5,
  faultReaction: 6,
  fault: 7,
} as const;
export type DriveState = (typeof DriveState)[keyof typeof DriveState];

/** Control word bits (IEC 61800-7-201 table). Quick stop is active low; fault reset acts on its rising edge. */
export const Control = {
  switchOn: 1 << 0,
  enableVoltage: 1 << 1,
  quickStopOff: 1 << 2,
  enableOperation: 1 << 3,
  faultReset: 1 << 7,
} as const;

/** The usual control words. */
export const ControlWord = {
  disableVoltage: 0,
  shutdown: Control.enableVoltage | Control.quickStopOff,
  switchOn: Control.switchOn | Control.enableVoltage | Control.quickStopOff,
  enableOperation: Control.switchOn | Control.enableVoltage | Control.quickStopOff | Control.enableOperation,
  quickStop: Control.switchOn | Control.enableVoltage,
  faultReset: Control.faultReset,
} as const;

const statusBits: Record<DriveState, number> = { 0: 0x00, 1: 0x40, 2: 0x21, 3: 0x23, 4: 0x27, 5: 0x07, 6: 0x0f, 7: 0x08 };

/** Status word of a state (bits 0–3, 5, 6) with voltage-enabled in bit 4 and target reached in bit 10. */
export const statusWord = (state: DriveState, atReference: boolean): number =>
  statusBits[state] | (state >= 2 && state <= 5 ? 0x10 : 0) | (atReference ? 0x400 : 0);

/** Maker's bit of the status word (14 and 15 are the maker's in IEC 61800-7-201): the process lets the drive sleep. */
export const asleepBit = 0x4000;

/** The state a status word tells; null when its bits are none of the eight. */
export function stateFromStatusWord(word: number): DriveState | null {
  const low = word & 0x4f;
  if (low === 0x00) return DriveState.notReady;
  if (low === 0x40) return DriveState.switchOnDisabled;
  if (low === 0x0f) return DriveState.faultReaction;
  if (low === 0x08) return DriveState.fault;
  const six = word & 0x6f;
  if (six === 0x21) return DriveState.ready;
  if (six === 0x23) return DriveState.switchedOn;
  if (six === 0x27) return DriveState.operationEnabled;
  if (six === 0x07) return DriveState.quickStop;
  return null;
}

/**
 * The next state for a control word. `stopped` tells that the ramp in force has reached standstill, which ends quick stop, fault
 * reaction and a ramped disable. `resetEdge` is a rising edge of fault reset with the cause gone.
 */
export function nextState(state: DriveState, word: number, stopped: boolean, resetEdge: boolean): DriveState {
  const voltage = (word & Control.enableVoltage) !== 0;
  const quickOff = (word & Control.quickStopOff) !== 0;
  const on = (word & Control.switchOn) !== 0;
  const enable = (word & Control.enableOperation) !== 0;
  switch (state) {
    case DriveState.notReady:
      return DriveState.switchOnDisabled;
    case DriveState.switchOnDisabled:
      return voltage && quickOff && !on ? DriveState.ready : state;
    case DriveState.ready:
      if (!voltage || !quickOff) return DriveState.switchOnDisabled;
      return on ? DriveState.switchedOn : state;
    case DriveState.switchedOn:
      if (!voltage || !quickOff) return DriveState.switchOnDisabled;
      if (!on) return DriveState.ready;
      return enable ? DriveState.operationEnabled : state;
    case DriveState.operationEnabled:
      if (!voltage) return DriveState.switchOnDisabled;
      if (!quickOff) return DriveState.quickStop;
      if (!on) return stopped ? DriveState.ready : state;
      return !enable && stopped ? DriveState.switchedOn : state;
    case DriveState.quickStop:
      return !voltage || stopped ? DriveState.switchOnDisabled : state;
    case DriveState.faultReaction:
      return stopped ? DriveState.fault : state;
    case DriveState.fault:
      return resetEdge ? DriveState.switchOnDisabled : state;
  }
}
