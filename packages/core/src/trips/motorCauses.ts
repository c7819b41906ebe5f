import { Switch } from '../drive';
import type { Cause } from './cause';

/** Causes between the drive's output and the winding. */
export const motorCauses: readonly Cause[] = [
  {
    id: 'short in the cable',
    trips: ['overcurrent', 'stall', 'motorOverload'],
    often: 2,
    // what a short leaves to an overload to notice are a few turns, and it is there from the start
    oftenFor: { motorOverload: 0.3, stall: 1 },
    expects: {
      currentRise: { 'at once': 0.9, 'within moments': 0.08 },
      torqueWith: { 'does not': 0.85 },
      speed: { high: 0.5, 'near zero': 0.35 },
      load: { 'as usual': 0.9 },
      since: { 'at once': 0.4, hours: 0.3, minutes: 0.2 },
      motorLeads: { shorted: 0.93, sound: 0.05 },
      turnByHand: { 'turns freely': 0.95 },
    },
    remedy: 'at the machine',
  },
  {
    id: 'run-up too fast',
    trips: ['overcurrent', 'stall', 'driveOverload', 'motorOverload'],
    often: 2,
    expects: {
      moment: { starting: 0.95 },
      acceleration: { 'too short': 0.88, near: 0.1 },
      currentRise: { 'within moments': 0.5, grows: 0.35, steady: 0.14 },
      since: { 'at once': 0.35, soon: 0.5, minutes: 0.14 },
      torque: { motoring: 0.96 },
      load: { more: 0.6, 'as usual': 0.37 },
      turnByHand: { 'turns freely': 0.95 },
      limit: { usual: 0.7, high: 0.25 },
    },
    remedy: 'longer run-up',
  },
  {
    id: 'boost too high',
    trips: ['overcurrent', 'motorOverload', 'driveOverload', 'stall'],
    often: 1,
    expects: {
      boost: { high: 0.97 },
      currentRise: { 'within moments': 0.6, steady: 0.3 },
      speed: { low: 0.5, 'near zero': 0.4 },
      moment: { starting: 0.45, running: 0.5 },
      current: { above: 0.5, about: 0.25, 'far above': 0.2 },
      load: { 'as usual': 0.75, more: 0.2 },
      turnByHand: { 'turns freely': 0.95 },
    },
    remedy: 'less boost',
  },
  {
    id: 'motor data wrong',
    trips: ['overcurrent', 'motorOverload', 'stall', 'driveOverload'],
    often: 0.8,
    expects: {
      motorData: { differ: 0.96 },
      // too much voltage for the frequency saturates the motor as soon as it is magnetised, too little leaves it without torque
      moment: { starting: 0.5, running: 0.45 },
      speed: { 'near zero': 0.35, low: 0.3, high: 0.35 },
      since: { 'at once': 0.25, soon: 0.4, minutes: 0.25 },
      rotor: { 'left behind': 0.5, 'turns with it': 0.5 },
      currentRise: { 'at once': 0.35, 'within moments': 0.4, grows: 0.15 },
      current: { above: 0.35, 'far above': 0.25, about: 0.15, below: 0.25 },
      load: { 'as usual': 0.45, more: 0.5 },
      turnByHand: { 'turns freely': 0.95 },
    },
    remedy: 'motor as stamped',
  },
  {
    id: 'connected otherwise',
    trips: ['overcurrent', 'motorOverload', 'stall'],
    often: 0.5,
    expects: {
      connection: { otherwise: 0.95 },
      current: { above: 0.6, 'far above': 0.2 },
      load: { 'as usual': 0.5, more: 0.4 },
      turnByHand: { 'turns freely': 0.95 },
    },
    remedy: 'at the machine',
  },
  {
    id: 'wet insulation',
    trips: ['earthFault', 'overcurrent'],
    often: 4,
    // where a drive does not watch for it, windings that touch each other are as common
    oftenFor: { overcurrent: 1 },
    // a drive that watches for it says so
    can: ({ cause, machine: { drive } }) => cause !== 'overcurrent' || drive.earthFault !== Switch.on,
    expects: {
      insulation: { low: 0.94 },
      turnByHand: { 'turns freely': 0.95 },
      currentRise: { 'at once': 0.6, steady: 0.35 },
      torqueWith: { 'does not': 0.8 },
    },
    remedy: 'at the machine',
  },
  {
    id: 'cable leaks by its length',
    trips: ['earthFault'],
    often: 1,
    expects: { insulation: { sound: 0.93 }, moment: { starting: 0.4, running: 0.55 }, repeat: { again: 0.7 } },
    remedy: 'at the machine',
  },
  {
    id: 'motor lead open',
    trips: ['outputPhaseLoss'],
    often: 4,
    expects: { motorLeads: { 'one open': 0.95 } },
    remedy: 'at the machine',
  },
  {
    id: 'contactor at the motor',
    trips: ['outputPhaseLoss', 'overcurrent'],
    often: 1,
    expects: { motorLeads: { sound: 0.9 }, moment: { starting: 0.5, running: 0.45 }, currentRise: { 'at once': 0.6 } },
    remedy: 'at the machine',
  },
];
