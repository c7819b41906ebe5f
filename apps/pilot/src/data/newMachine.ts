import { useMutation } from '@tanstack/react-query';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { MachineDetail, MachineNew } from '@yare/contract';
import type { StampedPlate } from '@yare/core';
import { say } from '@yare/words/pages/data';
import { keys, queryClient, send } from './client';

/** A machine on its way to its record, as far as it was typed on this device. */
export interface NewMachine extends Pick<MachineNew, 'tag' | 'name' | 'area' | 'region'> {
  kind: MachineNew['kind'] | null;
  bookId: string | null;
  size: string | null;
  unitId: number | null;
  voltage: number;
  plate: Partial<StampedPlate> & Pick<StampedPlate, 'standard' | 'powerUnit'>;
}

const blank: NewMachine = {
  tag: '',
  name: '',
  area: '',
  kind: null,
  bookId: null,
  size: null,
  region: 50,
  unitId: null,
  voltage: 400,
  plate: { standard: 'IEC', powerUnit: 'kW' },
};

/** What was typed so far. It survives a reload and a lost server. */
export const useNewMachine = create<NewMachine>()(persist((): NewMachine => blank, { name: say.yareNewmachine }));
export const editNewMachine = (change: Partial<NewMachine>): void => void useNewMachine.setState(change);
export const editNewPlate = (change: Partial<StampedPlate>): void => void useNewMachine.setState((m) => ({ plate: { ...m.plate, ...change } }));
/** Clears all that was typed. @returns what brings it back */
export function clearNewMachine(): () => void {
  const before = useNewMachine.getState();
  useNewMachine.setState(blank, true);
  return () => useNewMachine.setState(before, true);
}

/** Nothing was typed or chosen yet. */
export const isUntouched = (m: NewMachine): boolean => JSON.stringify(m) === JSON.stringify(blank);

const tagPattern = /^[A-Z]{1,3}-[0-9]{1,4}$/;
/** What is wrong with a tag as it stands; null while nothing is, or nothing was typed. */
export const tagTrouble = (tag: string): string | null => (tag === '' || tagPattern.test(tag) ? null : say.aTagIsOneTo);

/** What the record still lacks, in words. */
export function newMachineLacks(m: NewMachine): string[] {
  const { plate } = m;
  const lacks: Array<[boolean, string]> = [
    [!tagPattern.test(m.tag), 'tag'],
    [m.name.trim() === '', 'name'],
    [m.area.trim() === '', 'area'],
    [m.kind === null, say.whatItDrives],
    [plate.power === undefined, 'output'],
    [plate.voltage === undefined, 'voltage'],
    [plate.current === undefined, say.fullLoadCurrent],
    [plate.frequency === undefined, 'frequency'],
    [plate.speed === undefined, say.ratedSpeed],
    [plate.connection === undefined, 'connection'],
    [m.bookId === null, say.driveFamily],
    [m.size === null, say.driveSize],
    [m.unitId === null, 'address'],
  ];
  return lacks.filter(([missing]) => missing).map(([, word]) => word);
}

/** The record as it is sent; only when nothing is lacking. */
function whole({ voltage, plate, ...m }: NewMachine): Omit<MachineNew, 'author'> {
  const unstamped = { powerFactor: null, efficiency: null, design: null, serviceFactor: null };
  return {
    ...(m as Omit<MachineNew, 'author' | 'supply' | 'plate'>),
    supply: { voltage, frequency: m.region },
    plate: { ...unstamped, ...plate } as StampedPlate,
  };
}

/** Puts the machine on record; what was typed goes only once the server has it. */
export const useAddMachine = () =>
  useMutation({
    mutationFn: (m: NewMachine) => send<MachineDetail>('POST', '/machines', whole(m)),
    onSuccess: (machine) => {
      queryClient.setQueryData(keys.machine(machine.tag), machine);
      void queryClient.invalidateQueries({ queryKey: keys.machines });
      clearNewMachine();
    },
  });
