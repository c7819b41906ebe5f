import type { MachineModel } from '@yare/commissioning';
import { useMotors, useSaveMotor } from '../../data/motors';
import { photoAddress, useAddPhoto, usePhotos, useRemovePhoto } from '../../data/photos';
import { View } from '@tamagui/core';
import { useState } from 'react';
import { useFilePick } from '../../ui/useFilePick';
import { Image, Pressable } from 'react-native';
import type { StampedPlate } from '@yare/core';
import { say } from '@yare/words/pages/plate';
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
    label: say.photoOfThePlate,
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
      <SectionHead right={data && data.length > 0 ? say.kept({ data: data.length }) : say.noneYet}>{say.photoOfThePlate}</SectionHead>
      {[add.error, remove.error].map((e) => e && <Finding key={e.message} severity="error" sentence={e.message} />)}
      {newest && (
        <Pressable role="link" aria-label={say.openThePhotoOfThe} onPress={() => window.open(photoAddress(newest.id), '_blank', 'noopener')}>
          <View backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule" padding={10} paddingLeft={52} gap={6}>
            <Image
              source={{ uri: photoAddress(newest.id) }}
              accessibilityLabel={say.plateOf({ tag })}
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
          text={removing ? say.keepIt : say.removeThisPhoto}
          second={data && data.length > 1 ? say.theOneBeforeItThen : say.noneIsLeftThen}
          onPress={() => setRemoving(!removing)}
          testID="remove-photo"
        />
      )}
      {newest && removing && (
        <Finding
          severity="warning"
          sentence={say.thePhotoTookIsGone({ author: newest.author, when: when(newest.at) })}
          act={say.removeIt}
          onAct={() => remove.mutate(newest.id, { onSettled: () => setRemoving(false) })}
        />
      )}
      <ActRow
        text={add.isPending ? say.keepingThePhoto : newest ? say.takeAnother : say.takeAPhoto}
        second={say.keptWithTheMachine}
        disabled={add.isPending}
        onPress={photo.pick}
        testID="add-photo"
      />
      {photo.input}
    </>
  );
}

const told = (p: StampedPlate) => say.vARpm({ power: p.power, powerUnit: p.powerUnit, voltage: p.voltage, current: p.current, speed: p.speed });

function SavedMotors({ model }: { model: MachineModel }) {
  const { plate } = model;
  const { tag } = model.machine;
  const [name, setName] = useState('');
  const { data } = useMotors(true);
  const save = useSaveMotor();
  return (
    <Fold title={say.savedMotors} right={data ? say.saved({ data: data.length }) : ''} open={false} testID="fold-motors">
      <Refusal of={save.error} />
      {save.isSuccess && name === '' && <Finding severity="good" sentence={say.isSavedForTheNext({ name: save.data.name })} />}
      <TextLine
        label={say.nameOfThisMotor}
        placeholder={say.saveThisMotorAs}
        value={name}
        onChange={setName}
        act={name.trim() ? say.save : undefined}
        onAct={() => save.mutate({ name: name.trim(), plate }, { onSuccess: () => setName('') })}
        testID="motor-name"
        actTestID="motor-save"
      />
      {data?.length === 0 && <Note>{say.noneYetAMotorSaved}</Note>}
      {data?.map((m) => (
        <SheetRow
          key={m.id}
          label={m.name}
          second={`${told(m.plate as StampedPlate)} · ${m.author}`}
          text={say.take}
          onPress={() => editPlate(tag, m.plate as StampedPlate, { ...plate })}
          testID={`motor-${m.id}`}
        />
      ))}
    </Fold>
  );
}
