import { View } from '@tamagui/core';
import { useEffect, useState, type ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { say } from '@yare/words/pages/pair';
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
  const kind = typeof navigator !== 'undefined' && /Mobi|Android|iPhone/.test(navigator.userAgent) ? say.phone : say.computer;
  return author ? say.ofText({ kind, author }) : kind;
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
        <StageHead title={say.thisDeviceIsPaired} second={say.itMayReadWriteAnd} />
        <SheetFoot />
        <ActionBar acts={[{ text: say.goToThePlant, main: true, onPress: () => go('/') }]} />
      </Sheet>
    );
  return (
    <Sheet>
      <ScrollView style={{ flex: 1 }} contentContainerStyle={{ flexGrow: 1 }}>
        <StageHead title={say.pairThisDevice} second={putOut ? say.itWasRemoved : say.theServerDoesNotKnow} />
        {putOut && <Finding severity="warning" sentence={say.somebodyRemovedThisDeviceThe} />}
        <Note>{say.onlyPairedDevicesGetIn}</Note>
        <SectionHead right={say.ofText2({ code: code.length, codeLength })}>{say.codeFromTheServer}</SectionHead>
        <TextLine
          label={say.codeFromTheServer}
          placeholder={say.abcd}
          value={grouped(code)}
          onChange={(t) => setCode(signsOf(t))}
          onAct={send}
          figures
          testID="pair-code"
        />
        <Refusal of={pair.error} />
        <SectionHead>{say.nameOfThisDevice}</SectionHead>
        <TextLine
          label={say.nameOfThisDevice}
          placeholder={say.phoneOfTheElectrician}
          value={name}
          onChange={(t) => setName(t.slice(0, 40))}
          onAct={send}
          testID="pair-name"
        />
        <Note>{say.theNameStandsInThe}</Note>
        <SheetFoot />
      </ScrollView>
      <ActionBar acts={[{ text: pair.isPending ? say.pairing : say.pairThisDevice, main: true, disabled: !ready, onPress: send, testID: 'pair' }]} />
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
