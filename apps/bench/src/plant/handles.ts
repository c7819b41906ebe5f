import type { Plant } from './plant';

/** A handle with how it is read and turned. */
export interface Handle {
  id: string;
  label: string;
  unit: string;
  min: number;
  max: number;
  step: number;
  decimals: number;
  get(): number;
  set(value: number): void;
}

const shareOf = (id: string, label: string, get: Handle['get'], set: Handle['set']): Handle => ({
  id,
  label,
  unit: '%',
  min: 0,
  max: 100,
  step: 5,
  decimals: 0,
  get,
  set,
});

/** A damper is never quite shut. */
const leastDamper = 0.02;

function common(p: Plant): Handle[] {
  const { conditions } = p.machine;
  return [
    {
      ...{ id: 'power', label: 'Main switch', unit: '', min: 0, max: 1, step: 1, decimals: 0 },
      get: () => (p.powered ? 1 : 0),
      set: (v) => p.switchMains(v >= 0.5),
    },
    {
      ...{ id: 'supply', label: 'Supply', unit: '%', min: 70, max: 125, step: 1, decimals: 0 },
      get: () => 100 * p.supply.handle,
      set: (v) => (p.supply.handle = v / 100),
    },
    {
      ...{ id: 'ambient', label: 'Air in the panel', unit: '°C', min: -10, max: 60, step: 5, decimals: 0 },
      get: () => conditions.ambient,
      set: (v) => (conditions.ambient = v),
    },
  ];
}

function ofProcess(p: Plant): Handle[] {
  const { load } = p.machine.spec;
  switch (load.kind) {
    case 'pump': {
      const valve = shareOf(
        'demand',
        p.hasSump ? 'Outlet valve' : 'Taps open',
        () => 100 * load.demandOpening,
        (v) => (load.demandOpening = v / 100),
      );
      const inflow: Handle = {
        ...{ id: 'inflow', label: 'Flow into the sump', unit: 'm³/h', min: 0, max: 60, step: 2, decimals: 0 },
        get: () => p.inflow * 3600,
        set: (v) => (p.inflow = v / 3600),
      };
      return p.hasSump ? [valve, inflow] : [valve];
    }
    case 'fan':
      return [
        shareOf(
          'damper',
          'Damper',
          () => 100 * load.damper,
          (v) => (load.damper = Math.max(leastDamper, v / 100)),
        ),
        {
          ...{ id: 'filter', label: 'Filter, times clean', unit: '×', min: 1, max: 20, step: 0.5, decimals: 1 },
          get: () => load.clogging,
          set: (v) => (load.clogging = v),
        },
      ];
    case 'conveyor':
      return [
        {
          ...{ id: 'feed', label: 'Feed onto the belt', unit: 't/h', min: 0, max: 60, step: 1, decimals: 0 },
          get: () => load.feed * 3.6,
          set: (v) => (load.feed = v / 3.6),
        },
      ];
    case 'hoist':
      return [
        {
          ...{
            id: 'hung',
            label: 'Load on the hook',
            unit: 'kg',
            min: 0,
            max: 2 * (p.demo.driven.kind === 'hoist' ? p.demo.driven.lifts : 0),
            step: 50,
            decimals: 0,
          },
          get: () => load.mass,
          set: (v) => (load.mass = v),
        },
      ];
    default:
      return [
        {
          ...{ id: 'thickness', label: 'Product, times thin', unit: '×', min: 0.5, max: 4, step: 0.1, decimals: 1 },
          get: () => p.thickness,
          set: (v) => (p.thickness = v),
        },
      ];
  }
}

/** The handles of a machine, most used first. */
export const handlesOf = (p: Plant): Handle[] => [...ofProcess(p), ...common(p)];
