import { absentFeature, type DriveParameters } from '../src';

/** A drive of 12 A as it stands in cases of trips, and its size. */
export const drive = {
  ...absentFeature,
  ...{
    motorFrequency: 50,
    motorVoltage: 400,
    motorCurrent: 10,
    motorSpeed: 1450,
    accelerationTime: 5,
    decelerationTime: 3,
    secondAccelerationTime: 5,
  },
  ...{
    secondDecelerationTime: 5,
    quickStopTime: 3,
    minimumFrequency: 0,
    maximumFrequency: 50,
    currentLimit: 15,
    overloadCurrent: 10,
    overloadClass: 10,
  },
  ...{ startBoost: 0.02, stopMode: 0, reversePermit: 0, linkTimeout: 1 },
} as DriveParameters;
export const rating = {
  ...{ current: 12, overcurrentTrip: 30, overvoltageTrip: 800, undervoltageTrip: 380, busCapacitance: 500e-6, idleLoss: 20, lossPerAmpere: 10 },
  ...{ leastResistance: 60, temperatureTrip: 90, heatsinkRise: 40, overloadShare: 1.5 },
};
