import type { SettingChange, DriveSettings } from '@yare/books';
import { formatFigure, type Driven, type StampedPlate } from '@yare/core';
import { say } from '@yare/words/commissioning';

/** Something that does not fit, or does, with its sentence and its way out. */
export interface Finding {
  id: string;
  /** the setting it stands under; none stands at the head of the stage */
  code?: string;
  /** the field of the plate it stands under */
  field?: keyof StampedPlate;
  severity: 'error' | 'warning' | 'good';
  sentence: string;
  remedy?: Remedy;
  /** the other ways out */
  more?: readonly Remedy[];
}

/** What one tap does about a finding: changes of the draft, of the plate, or a stage to go to. */
export interface Remedy {
  label: string;
  changes?: SettingChange[];
  plate?: Partial<StampedPlate>;
  go?: string;
}

/** A machine's figures as they are checked against each other. */
export interface Checked {
  /** the draft */
  settings: DriveSettings;
  plate: StampedPlate;
  supply: { voltage: number; frequency: number };
  driven: Driven;
  /** the value of a setting was found out at the machine, which beats every estimate */
  measured?: (code: string) => boolean;
}

/** A pump and a fan move little backwards, and a screwed wheel comes off. */
export const hasOneWay = ({ kind }: Driven): boolean => kind === 'pump' || kind === 'fan';

export const amperes = (x: number): string => `${formatFigure(x, x < 10 ? 2 : 1)} A`;
export const hertz = (x: number): string => say.hz({ x });
