import { View } from '@tamagui/core';
import { useEffect, useState, type ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { useDevice } from '../../data/device';
import { usePair, usePairing } from '../../data/pairing';
import { ActionBar } from '../../ui/bar';
import { go } from '../../ui/go';
import { Finding, Note, SectionHead, SheetFoot } from '../../ui/sheet';
import { StageHead } from '../../ui/StageHead';
import { TextLine } from '../../ui/TextLine';
import { Refusal } from '../../ui/Answer';

const codeLength = 8;
/** A code as it is shown at the server: two groups of four. */
const grouped = (code: string): string => code.replace(/(.{4})(?=.)/g, '$1 ');
const signsOf = (text: string): string =>
  text
    .toUpperCase()
    .replace(/[^0-9A-Z]/g, '')
    .slice(0, codeLength);
/** The code of a scanned QR: behind the #, so that it is sent nowhere. */
const scanned = (): string => (typeof location === 'undefined' ? '' : signsOf(location.hash.slice(1)));

/** What a device is likely called. */
const likelyName = (author: string): string => {
  const kind = typeof navigator !== 'undefined' && /Mobi|Android|iPhone/.test(navigator.userAgent) ? 'Phone' : 'Computer';
  return author ? `${kind} of ${author}` : kind;
};

/** Asks a device that the server does not know for the code on the server's screen. */
export function PairScreen() {
  const allowed = usePairing((p) => p.allowed);
  const putOut = usePairing((p) => p.putOut);
  const author = useDevice((d) => d.author);
  const [code, setCode] = useState(scanned);
  const [name, setName] = useState(() => likelyName(author));
  const pair = usePair();
  // whoever is paired already, or is just now, has nothing to do here
  useEffect(() => {
    if (allowed) go('/');
  }, [allowed]);
  const ready = code.length === codeLength && name.trim().length > 0 && !pair.isPending;
  const send = () => ready && pair.mutate({ code, name: name.trim().slice(0, 40) }, { onError: () => setCode('') });
  if (allowed)
    return (
      <Sheet>
        <StageHead title="This device is paired" second="It may read, write and turn machines until it is removed." />
        <SheetFoot />
        <ActionBar acts={[{ text: 'Go to the plant', main: true, onPress: () => go('/') }]} />
      </Sheet>
    );
  return (
    <Sheet>
      <ScrollView style={{ flex: 1 }} contentContainerStyle={{ flexGrow: 1 }}>
        <StageHead title="Pair this device" second={putOut ? 'It was removed.' : 'The server does not know it yet.'} />
        {putOut && (
          <Finding
            severity="warning"
            sentence="Somebody removed this device: the server no longer lets it in. A motor it held was ramped down. What was typed and not sent is still on this device."
          />
        )}
        <Note>
          Only paired devices get in, because this server writes to drives and turns motors. The code is on the server’s own screen. If it is no
          longer there, run “npm run pair” at the server.
        </Note>
        <SectionHead right={`${code.length} of ${codeLength}`}>Code from the server</SectionHead>
        <TextLine
          label="Code from the server"
          placeholder="ABCD 2345"
          value={grouped(code)}
          onChange={(t) => setCode(signsOf(t))}
          onAct={send}
          figures
          testID="pair-code"
        />
        <Refusal of={pair.error} />
        <SectionHead>Name of this device</SectionHead>
        <TextLine
          label="Name of this device"
          placeholder="Phone of the electrician"
          value={name}
          onChange={(t) => setName(t.slice(0, 40))}
          onAct={send}
          testID="pair-name"
        />
        <Note>The name stands in the list of paired devices and in the log, so that the right one can be removed when it is lost.</Note>
        <SheetFoot />
      </ScrollView>
      <ActionBar acts={[{ text: pair.isPending ? 'Pairing…' : 'Pair this device', main: true, disabled: !ready, onPress: send, testID: 'pair' }]} />
    </Sheet>
  );
}

function Sheet({ children }: { children: ReactNode }) {
  return (
    <View flex={1} backgroundColor="$paper" alignItems="center">
      <View flex={1} width="100%" maxWidth={720} backgroundColor="$sheet">
        {children}
      </View>
    </View>
  );
}
