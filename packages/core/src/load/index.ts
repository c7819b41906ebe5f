import { stepConveyor, type ConveyorLoad } from './conveyor';
import { stepFan, type FanLoad } from './fan';
import { stepHoist, type HoistLoad } from './hoist';
import { stepPump, type PumpLoad } from './pump';
import type { LoadState } from './state';
import { stepTorqueLoad, type TorqueLoad } from './torque';

/** Loads on the motor shaft. `step…` functions advance the state they are given. SI throughout. */
export type Load = TorqueLoad | PumpLoad | FanLoad | ConveyorLoad | HoistLoad;

/** Advances the load at a shaft speed in rad/s by dt s; torque, friction, pressure and flow are left in the state. */
export function stepLoad(state: LoadState, load: Load, speed: number, dt: number): void {
  if (load.kind === 'pump') stepPump(state, load, speed, dt);
  else if (load.kind === 'fan') stepFan(state, load, speed, dt);
  else if (load.kind === 'conveyor') stepConveyor(state, load, speed, dt);
  else if (load.kind === 'hoist') stepHoist(state, load);
  else stepTorqueLoad(state, load, speed);
}

export * from './state';
export * from './torque';
export * from './pump';
export * from './fan';
export * from './conveyor';
export * from './hoist';
export * from './sensor';
export * from './square';
