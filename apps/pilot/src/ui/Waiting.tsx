import { View } from '@tamagui/core';
import type { ReactNode } from 'react';
import { Pressable } from 'react-native';
import type { MachineModel, ModelState } from '../data/machineModel';
import { queryClient } from '../data/queries';
import { LinkWords, Second, Strong } from './text';

/** A page with nothing on it yet, or with what went wrong and the way out. */
export function Waiting({ error }: { error?: string }) {
  return (
    <View flex={1} backgroundColor="$sheet" padding={24} gap={10} justifyContent="center" alignItems="center" role={error ? 'alert' : 'status'}>
      {error ? (
        <>
          <Strong textAlign="center">{error}</Strong>
          <Pressable role="button" style={{ minHeight: 48, justifyContent: 'center' }} onPress={() => void queryClient.invalidateQueries()}>
            <LinkWords>Try again</LinkWords>
          </Pressable>
        </>
      ) : (
        <Second>Reading the sheet…</Second>
      )}
    </View>
  );
}

/** Shows the page once the machine is there. */
export function WithModel({ state, children }: { state: ModelState; children: (model: MachineModel) => ReactNode }) {
  if (state.status === 'loading') return <Waiting />;
  if (state.status === 'error') return <Waiting error={state.sentence} />;
  return children(state.model);
}
