import { retryAll } from '../../data/client';
import { View } from '@tamagui/core';
import { Fragment, useState } from 'react';
import { ScrollView } from 'react-native';
import type { DeviceView } from '@yare/contract';
import { useDevices, usePairing, usePutOut } from '../../data/pairing';
import { ActionBar } from '../../ui/bar';
import { go } from '../../ui/go';
import { Finding, Note, SectionHead, SheetFoot, SheetRow } from '../../ui/sheet';
import { StageHead } from '../../ui/StageHead';
import { Waiting } from '../../ui/Waiting';
import { when } from '../../ui/when';
import { Refusal } from '../../ui/Answer';
import { KeepingRows } from './KeepingRows';

/** The devices that may use this server, with their last use; any of them can be put out. */
export function DevicesScreen() {
  const { data, error } = useDevices();
  const local = usePairing((p) => p.local);
  const putOut = usePutOut();
  const [chosen, setChosen] = useState<number | null>(null);
  if (!data) return <Waiting error={error?.message} onRetry={retryAll} />;
  return (
    <View flex={1} backgroundColor="$paper" alignItems="center">
      <View flex={1} width="100%" maxWidth={720} backgroundColor="$sheet">
        <ScrollView style={{ flex: 1 }} contentContainerStyle={{ flexGrow: 1 }}>
          <StageHead title="Paired devices" second="They may read, write and turn machines." />
          <Refusal of={putOut.error} />
          {local && <Note>This page is open at the server’s own computer, which needs no pairing and is not listed.</Note>}
          <SectionHead right={data.length > 0 ? `${data.length}` : undefined}>Devices</SectionHead>
          {data.length === 0 && <Note>None yet. Start the server with “npm start -- --host 0.0.0.0” and scan what it shows with a phone.</Note>}
          {data.map((d) => (
            <Fragment key={d.id}>
              <SheetRow
                label={d.self ? `${d.name} (this device)` : d.name}
                second={`${d.online ? 'in use now' : `last used ${when(d.lastUsed)}`} · ${d.address} · paired ${when(d.pairedAt)}`}
                text={chosen === d.id ? 'Keep it' : 'Remove'}
                onPress={() => setChosen(chosen === d.id ? null : d.id)}
                testID={`device-${d.id}`}
              />
              {chosen === d.id && (
                <Finding
                  severity="warning"
                  sentence={warning(d)}
                  act={`Remove ${d.name}`}
                  onAct={() => putOut.mutate(d.id, { onSettled: () => setChosen(null) })}
                />
              )}
            </Fragment>
          ))}
          <KeepingRows />
          <SheetFoot />
        </ScrollView>
        <ActionBar acts={[{ text: 'Plant', hotkey: '0', onPress: () => go('/') }]} />
      </View>
    </View>
  );
}

const warning = (d: DeviceView): string =>
  `${d.name} can no longer get in. A motor it holds is ramped down at once. To come back it must be paired again with a new code.${d.self ? ' It is this device.' : ''}`;
