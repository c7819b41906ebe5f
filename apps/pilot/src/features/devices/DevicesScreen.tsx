import { retryAll } from '../../data/client';
import { View } from '@tamagui/core';
import { Fragment, useState } from 'react';
import { ScrollView } from 'react-native';
import type { DeviceView } from '@yare/contract';
import { say } from '@yare/words/pages/devices';
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
          <StageHead title={say.pairedDevices} second={say.theyMayReadWriteAnd} />
          <Refusal of={putOut.error} />
          {local && <Note>{say.thisPageIsOpenAt}</Note>}
          <SectionHead right={data.length > 0 ? `${data.length}` : undefined}>{say.devices}</SectionHead>
          {data.length === 0 && <Note>{say.noneYetStartTheServer}</Note>}
          {data.map((d) => (
            <Fragment key={d.id}>
              <SheetRow
                label={d.self ? say.thisDevice({ name: d.name }) : d.name}
                second={say.inUseNowPaired({ online: d.online, when: when(d.lastUsed), address: d.address, when2: when(d.pairedAt) })}
                text={chosen === d.id ? say.keepIt : say.remove}
                onPress={() => setChosen(chosen === d.id ? null : d.id)}
                testID={`device-${d.id}`}
              />
              {chosen === d.id && (
                <Finding
                  severity="warning"
                  sentence={warning(d)}
                  act={say.remove2({ name: d.name })}
                  onAct={() => putOut.mutate(d.id, { onSettled: () => setChosen(null) })}
                />
              )}
            </Fragment>
          ))}
          <KeepingRows />
          <SheetFoot />
        </ScrollView>
        <ActionBar acts={[{ text: say.plant, hotkey: '0', onPress: () => go('/') }]} />
      </View>
    </View>
  );
}

const warning = (d: DeviceView): string => say.canNoLongerGetIn({ name: d.name, self: d.self });
