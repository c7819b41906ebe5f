import { faultScenarios } from './faultScenarios';
import type { Scenario } from './scenario';
import { settingScenarios } from './settingScenarios';

/** Every way a machine is brought to a trip. */
export const scenarios: readonly Scenario[] = [...faultScenarios, ...settingScenarios];
