import { useLocalSearchParams } from 'expo-router';
import type { ComponentType } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { retryAll } from '../data/client';
import { useMachineModel } from '../data/model';
import { Waiting } from '../ui/Waiting';

/** A screen of the machine in the address: its sheet is drawn once the machine is there, and begun anew for another. */
export function machineScreen(Sheet: ComponentType<{ model: MachineModel }>): ComponentType {
  return function MachineScreen() {
    const { tag } = useLocalSearchParams<{ tag: string }>();
    const state = useMachineModel(tag);
    if (state.status === 'loading') return <Waiting />;
    if (state.status === 'error') return <Waiting error={state.sentence} onRetry={retryAll} />;
    return <Sheet key={tag} model={state.model} />;
  };
}
