import { machineScreen } from '../../machine/machineScreen';
import { takeChanges } from '../../machine/takeChanges';
import { useSurvey } from '../../data/survey';
import { judgeVoltages, type MachineModel, figuresOf, notAsFactory } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { Fragment, useState } from 'react';
import {
  allBooks,
  driveFit,
  factoryValue,
  smallestFit,
  storedValue,
  textOf,
  type DriveFit,
  type Place,
  bookById,
  type Setting,
  type Region,
  DriveSettings,
} from '@yare/books';
import type { DriveBook, Survey } from '@yare/contract';
import { formatFigure, present } from '@yare/core';
import { say } from '@yare/words/pages/drive';
import { useSetDrive, useReadDrive } from '../../data/drive';
import { useAnotherDrive } from '../../data/live';
import { MachineFrame } from '../../machine/MachineFrame';
import { Segments } from '../../ui/Segments';
import { ProofShape } from '../../ui/shapes';
import { ActRow, Finding, Fold, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { StageFindings } from '../../machine/StageFindings';
import { Mono } from '../../ui/text';
import { when } from '../../ui/when';
import { useWide } from '../../ui/theme';
import { goOn } from '../../machine/goOn';
import { Answer, Refusal } from '../../ui/Answer';

const a = (x: number) => formatFigure(x, x < 10 ? 2 : 1);
/** What is left over of a need, in words; a drive that misses it by a hair is told by how much. */
const marginText = (m: number) =>
  m > 1.5 ? say.timesTheNeed({ m: m + 1 }) : say.toSpare({ abs: Math.abs(m) * 100, abs2: Math.abs(m) < 0.02 ? 1 : 0, m: m >= 0 });

function DriveSheet({ model }: { model: MachineModel }) {
  const { machine, plate } = model;
  const { book, size } = model.drafted;
  const { tag } = machine;
  const wide = useWide();
  const { survey } = useSurvey(model);
  const read = useReadDrive(tag);
  const setDrive = useSetDrive(tag);
  const carrier = model.drafted.roleValue('carrier');
  const fit = driveFit(book, size, survey, carrier, plate.current);
  const evidence = (
    <Deratings fit={fit} overload={book.duty.overloadShare} need={plate.current} read={judgeVoltages(survey.lineVoltages, survey.voltage)} />
  );
  return (
    <MachineFrame
      model={model}
      stage="drive"
      title={say.drive}
      acts={[
        {
          text: read.isPending ? say.reading : say.readFromDrive,
          hotkey: 'r',
          disabled: read.isPending,
          onPress: () => read.mutate(),
          testID: 'read-drive',
        },
        goOn(tag, 'drive'),
      ]}
      evidenceTitle={say.isItBigEnoughHere}
      evidenceNote={marginText(fit.margin)}
      evidence={evidence}
    >
      <Refusal of={read.error} />
      <Refusal of={setDrive.error} />
      <StageFindings model={model} findings={model.findings.filter((f) => f.stage === 'drive' && f.id !== 'region')} />
      <FamilyAndSize model={model} survey={survey} carrier={carrier} fit={fit} setDrive={setDrive} />
      {!wide && <SectionHead right={marginText(fit.margin)}>{say.bigEnoughHere}</SectionHead>}
      {!wide && evidence}
      <SectionHead>{say.asFound}</SectionHead>
      <AsFound model={model} />
      <FactoryStart model={model} setDrive={setDrive} />
    </MachineFrame>
  );
}

/** The drive that stands there, and every size a family has, with what each would have to spare here. */
function FamilyAndSize({
  model,
  survey,
  carrier,
  fit,
  setDrive,
}: {
  model: MachineModel;
  survey: Survey;
  carrier: number;
  fit: DriveFit;
  setDrive: ReturnType<typeof useSetDrive>;
}) {
  const { machine, plate } = model;
  const { book } = model.drafted;
  const { tag, size, region } = machine;
  const [family, setFamily] = useState(book.id);
  const [asked, setAsked] = useState<{ bookId: string; size: string } | null>(null);
  const shown = bookById(family);
  const carrierShown = shown.id === book.id ? carrier : factoryCarrier(shown, region);
  const best = smallestFit(shown, survey, carrierShown, plate.current, survey.voltage);
  const choose = (bookId: string, to: string) => {
    if (bookId !== book.id || to !== size) setAsked({ bookId, size: to });
  };
  const says = useAnotherDrive(tag);
  return (
    <>
      {says && (
        <Finding
          severity="error"
          sentence={say.theDriveAtModbusAddress({ unitId: machine.unitId, family: says.family, size: says.size, family2: book.family, size2: size })}
          act={say.take({ family: says.family, size: says.size })}
          onAct={() => choose(says.bookId, says.size)}
        />
      )}
      {fit.margin < 0 && (
        <Finding
          severity="error"
          sentence={say.carriesAHereAndThe({ family: book.family, size, a: a(fit.left), a2: a(plate.current), marginText: marginText(fit.margin) })}
          act={best && best.rating.size !== size ? say.take({ family: shown.family, size: best.rating.size }) : undefined}
          onAct={best ? () => choose(shown.id, best.rating.size) : undefined}
        />
      )}
      <SectionHead right={`${book.family} ${size}`}>{say.familyAndSize}</SectionHead>
      <Segments
        label={say.driveFamily}
        options={allBooks().map((b) => ({ value: b.id, text: b.family, testID: `family-${b.id}` }))}
        value={family}
        onChoose={setFamily}
      />
      <Note>{shown.summary}</Note>
      <Fold
        key={shown.id}
        title={say.sizes}
        right={say.ofText({ ratings: shown.ratings.length, family: shown.family })}
        open={shown.id !== book.id}
        testID="fold-sizes"
      >
        {shown.ratings.map((r) => (
          <SizeRow
            key={r.size}
            book={shown}
            size={r.size}
            place={survey}
            carrier={carrierShown}
            need={plate.current}
            supply={survey.voltage}
            here={shown.id === book.id && r.size === size}
            onPress={() => choose(shown.id, r.size)}
          />
        ))}
      </Fold>
      {asked && (
        <Answer of={asked}>
          <Finding
            severity="act"
            sentence={say.getsItsDraftBeginsAnew({
              tag,
              family: present(allBooks().find((b) => b.id === asked.bookId)).family,
              size: asked.size,
              region,
            })}
            act={setDrive.isPending ? say.changing : say.thatIsTheDriveThat}
            onAct={() => setDrive.mutate({ ...asked, region }, { onSuccess: () => setAsked(null) })}
          />
        </Answer>
      )}
    </>
  );
}

function SizeRow(p: {
  book: DriveBook;
  size: string;
  place: Place;
  carrier: number;
  need: number;
  supply: number;
  here: boolean;
  onPress: () => void;
}) {
  const fit = driveFit(p.book, p.size, p.place, p.carrier, p.need);
  const levels = fit.rating.levels ?? p.book.levels;
  const wrongSupply = p.supply < levels.supplyMin || p.supply > levels.supplyMax;
  const second = [
    say.kw({ power: fit.rating.power }),
    fit.rating.input === 'doubler' ? say.onePhaseDoubled : null,
    wrongSupply ? say.forToVOnly({ supplyMin: levels.supplyMin, supplyMax: levels.supplyMax }) : marginText(fit.margin),
  ];
  return (
    <SheetRow
      label={p.size}
      second={second.filter(Boolean).join(' · ')}
      figure={a(fit.rating.current)}
      unit="A"
      mark={p.here ? <ProofShape proof="proved" /> : ''}
      inHand={p.here}
      onPress={p.onPress}
      testID={`size-${p.size}`}
    />
  );
}

/** Every derating on its own row, with what is left after it. */
function Deratings({ fit, overload, need, read }: { fit: DriveFit; overload: number; need: number; read: ReturnType<typeof judgeVoltages> }) {
  const name = {
    ambient: say.ambient,
    altitude: say.altitude,
    'carrier frequency': say.carrierFrequency,
    'single-phase supply': say.supplyPhases,
  } as const;
  return (
    <>
      <SheetRow label={say.ratedCurrent} second={say.ofTheSizeContinuous} figure={a(fit.rating.current)} unit="A" />
      {fit.rows.map((r) => (
        <SheetRow
          key={r.name}
          label={name[r.name]}
          second={r.given}
          figure={formatFigure(r.share * 100, 0)}
          unit="%"
          mark={r.share < 1 ? 'W' : ''}
          testID={`derating-${r.name}`}
        />
      ))}
      <SheetRow label={say.availableHere} second={say.underAllOfThemTogether} figure={a(fit.left)} unit="A" mark="W" />
      <SheetRow label={say.fullLoadCurrent} second={say.ofThePlate} figure={a(need)} unit="A" mark="P" testID="fit-need" />
      <SheetRow
        label={say.overload}
        second={say.ofTheMotorsCurrentFor({ left: (fit.left / need) * overload * 100 })}
        figure={a(fit.left * overload)}
        unit="A"
        mark="W"
      />
      {typeof read?.unbalance === 'number' && (
        <SheetRow
          label={say.voltageUnbalance}
          second={read.derating === null ? say.aboveNoMotorMayRun : say.ofTheSupplyTheDrive}
          figure={formatFigure(read.unbalance, 1)}
          unit="%"
          mark="M"
        />
      )}
    </>
  );
}

function AsFound({ model }: { model: MachineModel }) {
  const { asFound, drafted } = model;
  if (!asFound) return <Note>{say.notReadYetAsSoon}</Note>;
  const found = drafted.with(figuresOf(asFound.values));
  const moved = notAsFactory(found);
  return (
    <>
      <SheetRow label={say.read} second={say.everySettingBeforeAnythingWas} text={when(asFound.at)} mark={<ProofShape proof="proved" />} />
      <Fold title={say.notAsFromTheFactory} right={say.settings({ moved: moved.length })} open={false} testID="fold-as-found">
        {moved.map((s) => (
          <SheetRow
            key={s.code}
            label={s.name}
            second={say.factory({ code: s.code, textOf: textOf(s, found.factory(s)) })}
            mark="R"
            {...(s.options ? { text: found.text(s) } : { figure: found.text(s), unit: s.unit })}
          />
        ))}
      </Fold>
    </>
  );
}

/** Who put a value of the draft there, after what it came from. */
const authorText = ({ draft }: MachineModel, s: Setting): string => (draft.values[s.code] ? `, ${draft.values[s.code]?.author}` : '');

/** kHz of a family nobody has set yet. */
const factoryCarrier = (book: DriveBook, region: Region): number =>
  new DriveSettings(book, book.ratings[0]?.size ?? '', {}, region).roleValue('carrier');

/** A clean start from the factory values of a region: what it would undo in the draft is listed first. */
function FactoryStart({ model, setDrive }: { model: MachineModel; setDrive: ReturnType<typeof useSetDrive> }) {
  const { machine, drafted } = model;
  const { tag, region, size } = machine;
  const [to, setTo] = useState<50 | 60>(region);
  const [open, setOpen] = useState(false);
  const lost = drafted.all.filter((s) => s.access !== 'read' && storedValue(s, drafted.value(s)) !== factoryValue(s, to));
  const regionFinding = model.findings.filter((f) => f.id === 'region');
  const differing = drafted.all.filter((s) => s.factory50 !== s.factory60 && s.access !== 'read').length;
  const start = () => {
    takeChanges(
      model,
      lost.map((s) => ({ code: s.code, value: factoryValue(s, to), source: 'factory' })),
    );
    if (to !== region) setDrive.mutate({ bookId: machine.bookId, size, region: to });
    setOpen(false);
  };
  return (
    <>
      <SectionHead right={say.valuesDifferBetweenAndHz({ differing })}>{say.factoryStart}</SectionHead>
      {regionFinding.map((f) => (
        <Finding key={f.id} severity={f.severity} sentence={f.sentence} />
      ))}
      <Segments
        label={say.region}
        options={[50, 60].map((x) => ({
          value: x as 50 | 60,
          text: say.hz({ x }),
          second: x === region ? say.asNow : undefined,
          testID: `region-${x}`,
        }))}
        value={to}
        onChoose={setTo}
      />
      <ActRow
        text={open ? say.leaveTheDraftAsIt : say.setTheWholeDraftTo({ to })}
        second={lost.length === 0 ? say.itIsSoAlreadyNothing : say.undoesValueOfTheDraft({ lost: lost.length })}
        disabled={lost.length === 0 && to === region}
        onPress={() => setOpen(!open)}
        testID="factory-start"
      />
      {open && (
        <>
          <Finding
            severity="act"
            sentence={say.thisUndoesValueOfThe({ lost: lost.length, tag, to })}
            act={say.undoAndStartFromFactory({ lost: lost.length })}
            onAct={start}
          />
          {lost.map((s) => (
            <Fragment key={s.code}>
              <SheetRow label={s.name} second={`${s.code} · ${model.draftOf(s.code).source}${authorText(model, s)}`}>
                <View paddingRight={14} maxWidth="48%">
                  <Mono textAlign="right" fontSize={15} lineHeight={20}>
                    {textOf(s, model.draftOf(s.code).value)} → {textOf(s, factoryValue(s, to))} {s.unit}
                  </Mono>
                </View>
              </SheetRow>
            </Fragment>
          ))}
        </>
      )}
    </>
  );
}

/** Which drive stands there, whether it is big enough, what was in it, and a factory start. */
export const DriveScreen = machineScreen(DriveSheet);
