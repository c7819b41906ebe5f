import type { Driven, DriveBook, Source } from '@yare/contract';
import type { DriveRole, StampedPlate } from '@yare/core';
import { formatFigure } from '@yare/core';
import { findSetting, roleValue, settingsOf, type FirmwareRole, type Setting } from '../book';
import { settingValue } from '../roleUnits';

/** The stages whose figures are checked against each other. */
export type CheckedStage = 'plate' | 'drive' | 'protection' | 'motion' | 'direction';

export interface StageFinding {
  id: string;
  stage: CheckedStage;
  /** the setting it stands under; none stands at the head of the stage */
  code?: string;
  /** the field of the plate it stands under */
  field?: keyof StampedPlate;
  severity: 'error' | 'warning' | 'good';
  sentence: string;
  remedy?: { label: string; changes?: Array<{ code: string; value: number; source: Source }>; plate?: Partial<StampedPlate>; go?: string };
}

export interface Checked {
  book: DriveBook;
  size: string;
  region: 50 | 60;
  plate: StampedPlate;
  supply: { voltage: number; frequency: number };
  driven: Driven;
  /** the draft, by code */
  draft: Readonly<Record<string, number>>;
}

/** One look at a machine's figures, with what the checks ask of it again and again. */
export class Look {
  readonly settings: readonly Setting[];
  constructor(readonly c: Checked) {
    this.settings = settingsOf(c.book, c.size);
  }
  find(role: DriveRole | FirmwareRole): Setting | undefined {
    return findSetting(this.c.book, this.c.size, role);
  }
  raw(s: Setting): number {
    return this.c.draft[s.code] ?? (this.c.region === 50 ? s.factory50 : s.factory60);
  }
  /** in the unit of the role; null where the family has no such setting */
  role(role: DriveRole | FirmwareRole): number | null {
    const s = this.find(role);
    return s ? roleValue(this.c.book, this.c.size, s, this.raw(s), this.c.draft) : null;
  }
  change(role: DriveRole | FirmwareRole, inRole: number, source: Source = 'worked out') {
    const s = this.find(role);
    const value = s ? settingValue(this.c.book, this.c.size, s, inRole, this.c.draft) : null;
    return s && value !== null ? [{ code: s.code, value: s.options ? value : Math.min(s.max, Math.max(s.min, value)), source }] : [];
  }
}

export const amperes = (x: number): string => `${formatFigure(x, x < 10 ? 2 : 1)} A`;
export const hertz = (x: number): string => `${formatFigure(x, 1)} Hz`;
