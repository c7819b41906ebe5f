import { machineScreen } from '../../machine/machineScreen';
import { useShortLists } from '../../data/shortLists';
import { settingsByTask, type MachineModel, notAsFactory } from '@yare/commissioning';
import { useMemo, useState } from 'react';
import { groupOf, type Setting } from '@yare/books';
import { say } from '@yare/words/pages/settings';
import { findSettings, type SettingsFilter } from '../../data/settingsList';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { Segments } from '../../ui/Segments';
import { settingEntry } from '../../machine/SettingRow';
import { ActRow, Fold, Note, SectionHead } from '../../ui/sheet';
import { TextLine } from '../../ui/TextLine';
import { VirtualRows } from '../../ui/VirtualRows';
import { SettingLine } from './SettingLine';
import { SettingsLock } from './SettingsLock';
import { SheetFiles } from './SheetFiles';
import { ShortLists } from './ShortLists';
import { go } from '../../ui/go';

type Order = 'code' | 'task';
type Row = { head: string; right: string } | { setting: Setting };

/** The settings found, under the heads of their groups or tasks. */
function rowsOf(model: MachineModel, found: readonly Setting[], order: Order): Row[] {
  const groups =
    order === 'task'
      ? settingsByTask(model.drafted.book, model.machine.size)
      : model.drafted.book.groups.map((g) => ({ name: g.name, settings: model.drafted.all.filter((s) => groupOf(s.code) === g.id) }));
  const seen = new Set(found.map((s) => s.code));
  return groups.flatMap((g): Row[] => {
    const here = g.settings.filter((s) => seen.has(s.code));
    return here.length === 0
      ? []
      : [{ head: g.name, right: say.ofText({ here: here.length, settings: g.settings.length }) }, ...here.map((setting) => ({ setting }))];
  });
}

const keyOf = (row: Row): string => ('head' in row ? say.head({ head: row.head }) : row.setting.code);

/** The filters with how many settings each leaves. */
function filterOptions(model: MachineModel) {
  const { all } = model.drafted;
  const counts: Array<[SettingsFilter, string, number]> = [
    ['all', say.all, all.length],
    ['changed', say.notFactory, notAsFactory(model.drafted).length],
    ['differing', say.notAsDrive, model.differing.length],
    ['locked', say.standstill, all.filter((s) => s.access === 'stopped').length],
    ['read', say.readOnly2, all.filter((s) => s.access === 'read').length],
  ];
  return counts.map(([value, text, n]) => ({ value, text, second: String(n), testID: `filter-${value}` }));
}

function FilesAndLock({ model }: { model: MachineModel }) {
  return (
    <>
      <SheetFiles model={model} />
      <SectionHead>{say.lock}</SectionHead>
      <SettingsLock tag={model.machine.tag} />
    </>
  );
}

function OrderChoice({ order, onChoose }: { order: Order; onChoose: (order: Order) => void }) {
  return (
    <Segments
      label={say.order}
      options={[
        { value: 'code', text: say.byCode, second: say.asTheDriveHasThem, testID: 'by-code' },
        { value: 'task', text: say.byTask, second: say.whatTheyAreFor, testID: 'by-task' },
      ]}
      value={order}
      onChoose={onChoose}
    />
  );
}

function SettingsSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const [search, setSearch] = useState('');
  const [filter, setFilter] = useState<SettingsFilter>('all');
  const [order, setOrder] = useState<Order>('code');
  const [list, setList] = useState<number | null>(null);
  const [open, setOpen] = useState<string | null>(null);
  const [files, setFiles] = useState(false);
  const undo = useUndo(tag, 'draft');
  const codes = useShortLists(model.drafted.book.id).data?.find((l) => l.id === list)?.codes;
  const found = useMemo(() => {
    const all = findSettings(model, search, filter);
    return codes ? all.filter((s) => codes.includes(s.code)) : all;
  }, [model, search, filter, codes]);
  const rows = useMemo(() => rowsOf(model, found, order), [model, found, order]);
  const current = open === null ? undefined : model.drafted.at(open);
  const entries = current && !current.options ? [settingEntry(model, current, 'settings')] : [];
  const count = model.differing.length;
  const sheetFiles = <FilesAndLock model={model} />;
  return (
    <MachineFrame
      model={model}
      stage="settings"
      title={say.settingsSheet}
      entries={entries}
      acts={[
        undo,
        { text: files ? say.closeFiles : say.filesLock, hotkey: 'f', onPress: () => setFiles(!files), testID: 'files' },
        {
          text: count > 0 ? say.goToWrite({ count }) : say.goToWrite2,
          main: true,
          hotkey: 'w',
          disabled: count === 0,
          onPress: () => go(`/m/${tag}/write`),
        },
      ]}
      evidenceTitle={say.filesKeypadListLock}
      evidence={sheetFiles}
    >
      {files && sheetFiles}
      <TextLine
        label={say.searchSettings}
        placeholder={say.codeNameOrMeaning}
        value={search}
        onChange={setSearch}
        act={search === '' ? undefined : say.clear}
        onAct={search === '' ? undefined : () => setSearch('')}
        testID="search"
      />
      <Segments label={say.whichSettings} options={filterOptions(model)} value={filter} onChoose={setFilter} />
      <Fold
        title={say.orderAndShortLists}
        right={[order === 'code' ? say.byCode2 : say.byTask2, codes ? say.oneListShown : ''].filter(Boolean).join(', ')}
        open={false}
        testID="fold-order"
      >
        <OrderChoice order={order} onChoose={setOrder} />
        <ShortLists model={model} chosen={codes ? list : null} onChoose={setList} shown={found.map((s) => s.code)} />
        <ActRow text={say.compare} second={say.anyTwoSheetsMachines} onPress={() => go(`/m/${tag}/compare`)} testID="go-compare" />
        <ActRow text={say.revisions} second={say.whoWhenAndBackAgain} onPress={() => go(`/m/${tag}/revisions`)} testID="go-revisions" />
      </Fold>
      <VirtualRows items={rows} keyOf={keyOf}>
        {(row) =>
          'head' in row ? (
            <SectionHead right={row.right}>{row.head}</SectionHead>
          ) : (
            <SettingLine
              model={model}
              setting={row.setting}
              open={open === row.setting.code}
              onOpen={() => setOpen(open === row.setting.code ? null : row.setting.code)}
            />
          )
        }
      </VirtualRows>
      {found.length === 0 && <Note>{search ? say.nothingFoundForTryA({ search }) : say.nothingHere}</Note>}
    </MachineFrame>
  );
}

/** The full list of a drive's settings: searched, filtered, explained, changed; files in and out; the keypad list. */
export const SettingsScreen = machineScreen(SettingsSheet);
