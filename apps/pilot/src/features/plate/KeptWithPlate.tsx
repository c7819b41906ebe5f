import type { MachineModel } from '@yare/commissioning';
import { useMotors, useSaveMotor } from '../../data/motors';
import { photoAddress, useAddPhoto, usePhotos, useRemovePhoto } from '../../data/photos';
import { View } from '@tamagui/core';
import { useState } from 'react';
import { useFilePick } from '../../ui/useFilePick';
import { Image, Pressable } from 'react-native';
import type { StampedPlate } from '@yare/core';
import { editPlate } from '../../data/edits';
import { ActRow, Finding, Fold, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { Second } from '../../ui/text';
import { TextLine } from '../../ui/TextLine';
import { when } from '../../ui/when';
import { Refusal } from '../../ui/Answer';

/** A photo of the plate, and motors kept for the next machine. */
export function KeptWithPlate({ model }: { model: MachineModel }) {
  return (
    <>
      <PlatePhotos tag={model.machine.tag} />
      <SavedMotors model={model} />
    </>
  );
}

function PlatePhotos({ tag }: { tag: string }) {
  const { data } = usePhotos(tag);
  const add = useAddPhoto(tag);
  const photo = useFilePick({
    label: 'Photo of the plate',
    testID: 'photo-file',
    accept: 'image/*',
    camera: true,
    onFile: (file) => add.mutate(file),
  });
  const remove = useRemovePhoto(tag);
  const [removing, setRemoving] = useState(false);
  const newest = data?.[0];
  return (
    <>
      <SectionHead right={data && data.length > 0 ? `${data.length} kept` : 'none yet'}>Photo of the plate</SectionHead>
      {[add.error, remove.error].map((e) => e && <Finding key={e.message} severity="error" sentence={e.message} />)}
      {newest && (
        <Pressable role="link" aria-label="Open the photo of the plate" onPress={() => window.open(photoAddress(newest.id), '_blank', 'noopener')}>
          <View backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule" padding={10} paddingLeft={52} gap={6}>
            <Image
              source={{ uri: photoAddress(newest.id) }}
              accessibilityLabel={`Plate of ${tag}`}
              resizeMode="contain"
              style={{ width: '100%', height: 180 }}
            />
            <Second>
              {newest.author}, {when(newest.at)}
            </Second>
          </View>
        </Pressable>
      )}
      {newest && (
        <ActRow
          text={removing ? 'Keep it' : 'Remove this photo'}
          second={data && data.length > 1 ? 'the one before it then shows' : 'none is left then'}
          onPress={() => setRemoving(!removing)}
          testID="remove-photo"
        />
      )}
      {newest && removing && (
        <Finding
          severity="warning"
          sentence={`The photo ${newest.author} took ${when(newest.at)} is gone for good; the log keeps that it was there.`}
          act="Remove it"
          onAct={() => remove.mutate(newest.id, { onSettled: () => setRemoving(false) })}
        />
      )}
      <ActRow
        text={add.isPending ? 'Keeping the photo…' : newest ? 'Take another' : 'Take a photo'}
        second="kept with the machine"
        disabled={add.isPending}
        onPress={photo.pick}
        testID="add-photo"
      />
      {photo.input}
    </>
  );
}

const told = (p: StampedPlate) => `${p.power} ${p.powerUnit}, ${p.voltage} V, ${p.current} A, ${p.speed} rpm`;

function SavedMotors({ model }: { model: MachineModel }) {
  const { plate } = model;
  const { tag } = model.machine;
  const [name, setName] = useState('');
  const { data } = useMotors(true);
  const save = useSaveMotor();
  return (
    <Fold title="Saved motors" right={data ? `${data.length} saved` : ''} open={false} testID="fold-motors">
      <Refusal of={save.error} />
      {save.isSuccess && name === '' && <Finding severity="good" sentence={`${save.data.name} is saved for the next machine.`} />}
      <TextLine
        label="Name of this motor"
        placeholder="Save this motor as…"
        value={name}
        onChange={setName}
        act={name.trim() ? 'Save' : undefined}
        onAct={() => save.mutate({ name: name.trim(), plate }, { onSuccess: () => setName('') })}
        testID="motor-name"
        actTestID="motor-save"
      />
      {data?.length === 0 && <Note>None yet. A motor saved here can be taken on any machine.</Note>}
      {data?.map((m) => (
        <SheetRow
          key={m.id}
          label={m.name}
          second={`${told(m.plate as StampedPlate)} · ${m.author}`}
          text="Take"
          onPress={() => editPlate(tag, m.plate as StampedPlate, { ...plate })}
          testID={`motor-${m.id}`}
        />
      ))}
    </Fold>
  );
}
