import type { BenchAct, BenchView } from '@yare/contract';
import { fromSi } from '@yare/core';
import { measurements, type MeasurementId } from '@yare/core/trips';
import type { SimulatedDrive } from '../drive/simulatedDrive';
import { faults } from '../faults/faults';
import { reading } from '../plant/readings';
import { handlesOf } from '../plant/handles';

/** A push button held by nobody springs back after this long, ms of real time. */
export const springBack = 600;

/** The plant side of one machine: what can be seen and turned without the drive's link. */
export class PlantSide {
  private readonly pressed = new Map<string, number>();

  constructor(
    readonly drive: SimulatedDrive,
    private readonly built = false,
    /** whoever shares its process, whose time is then one */
    private readonly together: () => readonly SimulatedDrive[] = () => [drive],
  ) {}

  /** Buttons nobody holds any more spring back. */
  tick(now: number): void {
    for (const [id, at] of this.pressed) {
      if (now - at < springBack) continue;
      this.drive.panel.state[id] = 0;
      this.pressed.delete(id);
    }
  }

  /** @throws RangeError with a sentence for a device, handle or fault this machine has not */
  act(a: Omit<BenchAct, 'author'>, now: number): void {
    const d = this.drive;
    const handles = handlesOf(d.plant);
    const turns = Object.entries(a.handles ?? {}).map(([id, value]) => {
      const handle = handles.find((h) => h.id === id);
      if (!handle) throw new RangeError(`${d.demo.tag} has no handle "${id}".`);
      return { handle, value };
    });
    for (const [id, value] of Object.entries(a.panel ?? {})) this.work(id, value, now);
    for (const { handle: h, value } of turns) h.set(Math.min(h.max, Math.max(h.min, value)));
    if (a.fault) this.strike(a.fault);
    if (a.wires) this.rewire(a.wires);
    if (a.drill) d.drill[a.drill]();
    if (a.pace !== undefined) for (const each of this.together()) each.pace = a.pace;
  }

  private strike({ id, trigger }: NonNullable<BenchAct['fault']>): void {
    const { faults: own, plant, demo } = this.drive;
    if (!faults.find((f) => f.id === id)?.applies(plant)) throw new RangeError(`${demo.tag} has no fault "${id}".`);
    if (trigger === null) own.disarm(id);
    else own.arm(id, trigger);
  }

  private rewire(a: NonNullable<BenchAct['wires']>): void {
    const d = this.drive;
    switch (a.act) {
      case 'strike':
        return d.panel.strike(a.fault);
      case 'strike unseen':
        return d.panel.err(a.kind);
      case 'put right':
        d.panel.faults = [];
        return;
      case 'build anew':
        if (d.running) throw new RangeError(`${d.demo.tag} turns: a panel is built with the machine at rest.`);
        this.pressed.clear();
        d.buildPanel();
    }
  }

  private work(id: string, value: number, now: number): void {
    const device = this.drive.panel.panel.devices.find((x) => x.id === id);
    if (!device) throw new RangeError(`The panel of ${this.drive.demo.tag} has no "${id}".`);
    const most = device.kind === 'selector' ? (device.positions?.length ?? 1) - 1 : 1;
    this.drive.panel.state[id] = Math.min(most, Math.max(0, device.kind === 'knob' ? value : Math.round(value)));
    if (device.kind === 'push' && value >= 1) this.pressed.set(id, now);
    else this.pressed.delete(id);
  }

  /** What a person with instruments finds at the machine now. @throws RangeError for what nobody can measure */
  measure(id: string): string {
    const is = (x: string): x is MeasurementId => x in measurements;
    if (!is(id)) throw new RangeError(`Nobody can measure "${id}".`);
    return reading(this.drive, id);
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
      powered: d.plant.powered,
      pace: d.pace,
      trips: d.trips,
      panel: d.panel.panel.devices.map((x) => ({
        id: x.id,
        kind: x.kind,
        label: x.label,
        positions: [...(x.positions ?? [])],
        value: d.panel.state[x.id] ?? x.rest,
      })),
      handles: handlesOf(d.plant).map(({ get, set: _set, ...h }) => ({ ...h, value: get() })),
      faults: faults
        .filter((f) => f.applies(d.plant) || (d.faults.get(f.id) && !d.drill.hides(f.id)))
        .map((f) => {
          const armed = d.drill.hides(f.id) ? undefined : d.faults.get(f.id);
          return { id: f.id, name: f.name, what: f.what, state: armed?.state ?? 'off', trigger: armed?.trigger ?? null };
        }),
      drill: d.drill.view(),
      wireFaults: d.panel.faults.filter((f) => !f.unseen),
      unseenFaults: d.panel.faults.filter((f) => f.unseen).length,
      wires: d.panel.panel.wires.map(({ terminal, contact }) => ({
        terminal,
        device: 'machine' in contact ? null : contact.device,
        to: 'machine' in contact ? contact.machine : (d.panel.panel.devices.find((x) => x.id === contact.device)?.label ?? contact.device),
      })),
      seen: {
        shaftSpeed: fromSi(m.speed, 'rpm'),
        pressure: m.loadState.pressure,
        flow: m.loadState.flow,
        level: m.loadState.level,
        mass: m.loadState.mass,
        beltSpeed: load.kind === 'conveyor' ? (m.speed * load.radius) / load.ratio : 0,
        windingTemperature: m.temperature.winding,
        supply: m.spec.supply.voltage,
        signal: d.plant.signal,
        brakeOpen: brake ? m.brakeOpening > 0.5 : null,
        asleep: d.controls.process.sleep.asleep && m.trip === null,
        valve: load.kind === 'pump' ? load.demandOpening * Math.sign(load.dischargeOpening) : load.kind === 'fan' ? load.damper : 1,
        clogging: load.kind === 'fan' ? load.clogging : 1,
        sensor,
      },
    };
  }
}
