import { bookById } from '@yare/books';
import type { BenchAct, BenchView, TripMemory } from '@yare/contract';
import { fromSi } from '@yare/core';
import { faults, type Trigger } from './faults';
import type { SimulatedDrive } from './simulatedDrive';

/** A handle with how it is read and turned. */
interface Handle {
  id: string;
  label: string;
  unit: string;
  min: number;
  max: number;
  step: number;
  decimals: number;
  get(d: SimulatedDrive): number;
  set(d: SimulatedDrive, value: number): void;
}

const percent = (id: string, label: string, get: Handle['get'], set: Handle['set']): Handle => ({
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

/** The handles of a machine, most used first. */
function handlesOf(d: SimulatedDrive): Handle[] {
  const { load } = d.machine.spec;
  const common: Handle[] = [
    {
      id: 'power',
      label: 'Main switch',
      unit: '',
      min: 0,
      max: 1,
      step: 1,
      decimals: 0,
      get: (x) => (x.powered ? 1 : 0),
      set: (x, v) => (v >= 0.5 ? x.powerOn() : x.powerOff()),
    },
    {
      id: 'supply',
      label: 'Supply',
      unit: '%',
      min: 70,
      max: 125,
      step: 1,
      decimals: 0,
      get: (x) => 100 * x.supplyHandle,
      set: (x, v) => (x.supplyHandle = v / 100),
    },
    {
      id: 'ambient',
      label: 'Air in the panel',
      unit: '°C',
      min: -10,
      max: 60,
      step: 5,
      decimals: 0,
      get: (x) => x.machine.conditions.ambient,
      set: (x, v) => (x.machine.conditions.ambient = v),
    },
  ];
  switch (load.kind) {
    case 'pump':
      return [
        percent(
          'demand',
          d.demo.driven.kind === 'pump' && d.demo.driven.sump ? 'Outlet valve' : 'Taps open',
          (x) => 100 * (x.machine.spec.load.kind === 'pump' ? x.machine.spec.load.demandOpening : 0),
          (x, v) => x.changeLoad('pump', (l) => (l.demandOpening = v / 100)),
        ),
        ...(load.sumpArea > 0
          ? [
              {
                id: 'inflow',
                label: 'Flow into the sump',
                unit: 'm³/h',
                min: 0,
                max: 60,
                step: 2,
                decimals: 0,
                get: (x: SimulatedDrive) => (x.machine.spec.load.kind === 'pump' ? x.machine.spec.load.inflow * 3600 : 0),
                set: (x: SimulatedDrive, v: number) => x.changeLoad('pump', (l) => (l.inflow = v / 3600)),
              },
            ]
          : []),
        ...common,
      ];
    case 'fan':
      return [
        percent(
          'damper',
          'Damper',
          (x) => 100 * (x.machine.spec.load.kind === 'fan' ? x.machine.spec.load.damper : 0),
          (x, v) => x.changeLoad('fan', (l) => (l.damper = Math.max(0.02, v / 100))),
        ),
        {
          id: 'filter',
          label: 'Filter, times clean',
          unit: '×',
          min: 1,
          max: 20,
          step: 0.5,
          decimals: 1,
          get: (x) => (x.machine.spec.load.kind === 'fan' ? x.machine.spec.load.clogging : 1),
          set: (x, v) => x.changeLoad('fan', (l) => (l.clogging = v)),
        },
        ...common,
      ];
    case 'conveyor':
      return [
        {
          id: 'feed',
          label: 'Feed onto the belt',
          unit: 't/h',
          min: 0,
          max: 60,
          step: 1,
          decimals: 0,
          get: (x) => (x.machine.spec.load.kind === 'conveyor' ? x.machine.spec.load.feed * 3.6 : 0),
          set: (x, v) => x.changeLoad('conveyor', (l) => (l.feed = v / 3.6)),
        },
        ...common,
      ];
    default:
      return [
        {
          id: 'thickness',
          label: 'Product, times thin',
          unit: '×',
          min: 0.5,
          max: 4,
          step: 0.1,
          decimals: 1,
          get: (x) => x.thickness,
          set: (x, v) => x.setThickness(v),
        },
        ...common,
      ];
  }
}

/** A push button held by nobody springs back after this long, ms of real time. */
export const springBack = 600;

/** The plant side of one machine: what can be seen and turned without the drive's link. */
export class PlantSide {
  private readonly pressed = new Map<string, number>();

  constructor(
    readonly drive: SimulatedDrive,
    private readonly built = false,
  ) {}

  /** Buttons nobody holds any more spring back. */
  tick(now: number): void {
    for (const [id, at] of this.pressed) {
      if (now - at < springBack) continue;
      this.drive.panelState[id] = 0;
      this.pressed.delete(id);
    }
  }

  /** @throws RangeError with a sentence for a device, handle or fault this machine has not */
  act(a: Omit<BenchAct, 'author'>, now: number): void {
    const d = this.drive;
    const handles = handlesOf(d);
    for (const id of Object.keys(a.handles ?? {}))
      if (!handles.some((h) => h.id === id)) throw new RangeError(`${d.demo.tag} has no handle "${id}".`);
    for (const [id, value] of Object.entries(a.panel ?? {})) this.work(id, value, now);
    for (const [id, value] of Object.entries(a.handles ?? {})) {
      const h = handles.find((x) => x.id === id)!;
      h.set(d, Math.min(h.max, Math.max(h.min, value)));
    }
    if (a.fault) {
      const fault = faults.find((f) => f.id === a.fault!.id);
      if (!fault || !fault.applies(d)) throw new RangeError(`${d.demo.tag} has no fault "${a.fault.id}".`);
      if (a.fault.trigger === null) d.disarm(fault.id);
      else d.arm(fault.id, a.fault.trigger as Trigger);
    }
    if (a.pace !== undefined) d.pace = a.pace;
  }

  private work(id: string, value: number, now: number): void {
    const device = this.drive.panel.devices.find((x) => x.id === id);
    if (!device) throw new RangeError(`The panel of ${this.drive.demo.tag} has no "${id}".`);
    const most = device.kind === 'selector' ? (device.positions?.length ?? 1) - 1 : 1;
    this.drive.panelState[id] = Math.min(most, Math.max(0, device.kind === 'knob' ? value : Math.round(value)));
    if (device.kind === 'push' && value >= 1) this.pressed.set(id, now);
    else this.pressed.delete(id);
  }

  /** What the drive remembers of its last trip; null when it has not tripped since the bench began. */
  tripMemory(): TripMemory | null {
    const d = this.drive;
    const t = d.lastTrip;
    if (!t) return null;
    const figures = (a: ArrayLike<number>, decimals: number) => Array.from(a, (x) => Number(x.toFixed(decimals)));
    const h = t.history;
    return {
      name: bookById(d.demo.bookId).trips.find((x) => x.cause === t.cause)?.name ?? t.cause,
      ago: d.machine.time - t.time,
      frequency: t.frequency,
      reference: t.reference,
      current: t.current,
      voltage: t.voltage,
      busVoltage: t.busVoltage,
      torque: (100 * t.torque) / d.ratedTorque,
      heatsink: t.heatsink,
      winding: t.winding,
      motorHeat: 100 * t.motorHeat,
      driveHeat: 100 * t.driveHeat,
      inputs: t.inputs,
      time: h ? figures(h.time, 3) : [],
      history: h
        ? { frequency: figures(h.channels.frequency, 2), current: figures(h.channels.current, 2), busVoltage: figures(h.channels.busVoltage, 1) }
        : {},
    };
  }

  view(): BenchView {
    const d = this.drive;
    const m = d.machine;
    const { load, brake } = m.spec;
    const { driven } = d.demo;
    const sensor = 'sensor' in driven ? (driven.sensor?.unit ?? null) : null;
    return {
      tag: d.demo.tag,
      kind: driven.kind,
      built: this.built,
      powered: d.powered,
      pace: d.pace,
      trips: d.trips,
      panel: d.panel.devices.map((x) => ({
        id: x.id,
        kind: x.kind,
        label: x.label,
        positions: [...(x.positions ?? [])],
        value: d.panelState[x.id]!,
      })),
      handles: handlesOf(d).map(({ get, set, ...h }) => {
        void set;
        return { ...h, value: get(d) };
      }),
      faults: faults
        .filter((f) => f.applies(d) || d.armed.has(f.id))
        .map((f) => {
          const armed = d.armed.get(f.id);
          return { id: f.id, name: f.name, what: f.what, state: armed?.state ?? 'off', trigger: armed?.trigger ?? null };
        }),
      seen: {
        shaftSpeed: fromSi(m.speed, 'rpm'),
        pressure: m.loadState.pressure,
        flow: m.loadState.flow,
        level: m.loadState.level,
        mass: m.loadState.mass,
        beltSpeed: load.kind === 'conveyor' ? (m.speed * load.radius) / load.ratio : 0,
        windingTemperature: m.temperature.winding,
        supply: m.spec.supply.voltage,
        signal: d.signal,
        brakeOpen: brake ? m.brakeOpening > 0.5 : null,
        asleep: d.firmware.asleep && m.trip === null,
        valve: load.kind === 'pump' ? load.demandOpening * Math.sign(load.dischargeOpening) : load.kind === 'fan' ? load.damper : 1,
        clogging: load.kind === 'fan' ? load.clogging : 1,
        sensor,
      },
    };
  }
}
