import { View } from '@tamagui/core';
import { router, useLocalSearchParams } from 'expo-router';
import { Fragment, useMemo, useState } from 'react';
import { Pressable, TextInput } from 'react-native';
import { groupOf } from '@yare/books';
import { useMachineModel, type MachineModel } from '../../data/machineModel';
import { findSettings, isChanged, type SettingsFilter } from '../../data/settingsList';
import { useEntryStore } from '../../ui/entry';
import { fontFamily } from '../../ui/look';
import { MachineFrame, useUndo } from '../../ui/MachineFrame';
import { settingEntry } from '../../ui/SettingRow';
import { Note, SectionHead } from '../../ui/sheet';
import { Second, Strong } from '../../ui/text';
import { useLook } from '../../ui/theme';
import { WithModel } from '../../ui/Waiting';
import { SettingLine } from './SettingLine';
import { SheetFiles } from './SheetFiles';

/** The full list of a drive's settings: searched, filtered, explained, changed; files in and out; the keypad list. */
export function SettingsScreen() {
  const { tag } = useLocalSearchParams<{ tag: string }>();
  return <WithModel state={useMachineModel(tag)}>{(model) => <SettingsSheet key={tag} model={model} />}</WithModel>;
}

function SettingsSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const [search, setSearch] = useState('');
  const [filter, setFilter] = useState<SettingsFilter>('all');
  const [open, setOpen] = useState<string | null>(null);
  const [files, setFiles] = useState(false);
  const inHand = useEntryStore((s) => s.id);
  const undo = useUndo(tag, 'draft');
  const found = useMemo(() => findSettings(model, search, filter), [model, search, filter]);
  const groups = useMemo(
    () => model.book.groups.map((g) => ({ ...g, settings: found.filter((s) => groupOf(s.code) === g.id) })).filter((g) => g.settings.length > 0),
    [model.book, found],
  );
  const current = model.settings.find((s) => s.code === open);
  const entry = current && !current.options ? settingEntry(model, current, 'settings') : null;
  const counts: Array<[SettingsFilter, string, number]> = [
    ['all', 'All', model.settings.length],
    ['changed', 'Not factory', model.settings.filter((s) => isChanged(model, s)).length],
    ['differing', 'Not as drive', model.differing.length],
    ['locked', 'Locked', model.settings.filter((s) => s.access !== 'running').length],
  ];
  const count = model.differing.length;
  const sheetFiles = <SheetFiles model={model} />;
  return (
    <MachineFrame
      model={model}
      stage="settings"
      title="Settings sheet"
      entry={entry && inHand === entry.id ? entry : null}
      acts={[
        undo,
        { words: files ? 'Close files' : 'Files', hotkey: 'f', onPress: () => setFiles(!files), testID: 'files' },
        {
          words: count > 0 ? `Write ${count}` : 'Write',
          main: true,
          hotkey: 'w',
          disabled: count === 0,
          onPress: () => router.navigate(`/m/${tag}/write`),
        },
      ]}
      evidenceTitle="Files and keypad list"
      evidence={sheetFiles}
    >
      {files && sheetFiles}
      <SearchLine value={search} onChange={setSearch} />
      <FilterLine counts={counts} filter={filter} onFilter={setFilter} />
      {groups.map((g) => (
        <Fragment key={g.id}>
          <SectionHead right={`${g.settings.length} of ${model.settings.filter((s) => groupOf(s.code) === g.id).length}`}>{g.name}</SectionHead>
          {g.settings.map((s) => (
            <SettingLine key={s.code} model={model} setting={s} open={open === s.code} onOpen={() => setOpen(open === s.code ? null : s.code)} />
          ))}
        </Fragment>
      ))}
      {found.length === 0 && <Note>{search ? `Nothing found for “${search}”. Try a code, part of a name, or what it does.` : 'Nothing here.'}</Note>}
    </MachineFrame>
  );
}

function SearchLine({ value, onChange }: { value: string; onChange: (text: string) => void }) {
  const look = useLook();
  return (
    <View flexDirection="row" backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule" minHeight={56} alignItems="stretch">
      <View width={42} borderRightWidth={1} borderColor="$plum" />
      <TextInput
        testID="search"
        aria-label="Search settings"
        value={value}
        onChangeText={onChange}
        placeholder="Code, name or meaning"
        placeholderTextColor={look.soft}
        style={{ flex: 1, minWidth: 0, fontSize: 18, fontFamily: fontFamily.text, color: look.ink, paddingHorizontal: 10 }}
      />
      {value !== '' && (
        <Pressable
          role="button"
          aria-label="Clear the search"
          onPress={() => onChange('')}
          style={{ width: 84, alignItems: 'center', justifyContent: 'center' }}
        >
          <Strong color="$plum">Clear</Strong>
        </Pressable>
      )}
    </View>
  );
}

function FilterLine({
  counts,
  filter,
  onFilter,
}: {
  counts: Array<[SettingsFilter, string, number]>;
  filter: SettingsFilter;
  onFilter: (f: SettingsFilter) => void;
}) {
  const look = useLook();
  return (
    <View flexDirection="row" role="radiogroup" aria-label="Which settings" backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule2">
      {counts.map(([key, words, n]) => {
        const here = key === filter;
        return (
          <Pressable
            key={key}
            role="radio"
            aria-checked={here}
            testID={`filter-${key}`}
            onPress={() => onFilter(key)}
            style={{
              flex: 1,
              minHeight: 52,
              alignItems: 'center',
              justifyContent: 'center',
              borderRightWidth: 1,
              borderColor: look.rule,
              backgroundColor: here ? look.plumFill : look.sheet,
            }}
          >
            <Strong fontSize={14.5} color={here ? '$onPlum' : '$plum'}>
              {words}
            </Strong>
            <Second color={here ? '$onPlum' : '$soft'}>{n}</Second>
          </Pressable>
        );
      })}
    </View>
  );
}
