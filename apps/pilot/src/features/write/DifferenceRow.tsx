import { sourceMark } from '../../machine/sourceMark';
import { inSensorUnit, sensorOf, type MachineModel } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { Fragment } from 'react';
import { Pressable } from 'react-native';
import { roundingOf, textOf, type Setting } from '@yare/books';
import { say } from '@yare/words/pages/write';
import { measure } from '../../ui/palette';
import { Finding } from '../../ui/sheet';
import { Body, Figure, Mono, Second, Strong } from '../../ui/text';
import { drawnWhenChanged } from '../../ui/drawnWhenChanged';

/** One setting of the draft against another value of it, and what the drive will store after its rounding. */
export const DifferenceRow = drawnWhenChanged(function DifferenceRow({
  model,
  setting,
  against,
  chosen,
  onChoose,
}: {
  model: MachineModel;
  setting: Setting;
  /** what it stands against, with its name */
  against: { name: string; value: number | undefined };
  /** whether it will be written; absent where nothing is chosen one by one */
  chosen?: boolean;
  onChoose?: () => void;
}) {
  const now = model.draftOf(setting.code);
  const { stored, off, severity } = roundingOf(setting, now.value);
  const standstill = setting.access === 'stopped' ? say.onlyAtStandstill : '';
  // said in % of a feedback that may be straightened on one side only: the pressure itself tells whether anything changes
  const sensor = sensorOf(model.machine.driven);
  const is = inSensorUnit(model.drafted, sensor, setting.role, stored);
  const was = model.held && against.value !== undefined ? inSensorUnit(model.held, sensor, setting.role, against.value) : null;
  const row = (
    <View flexDirection="row" minHeight={64} borderBottomWidth={1} borderColor="$rule" backgroundColor="$sheet" testID={`diff-${setting.code}`}>
      <View width={measure.margin} alignItems="center" justifyContent="center" borderRightWidth={1} borderColor="$plum">
        {chosen === undefined ? (
          <Mono fontFamily="$monoBold" color="$plum">
            {sourceMark[now.source]}
          </Mono>
        ) : (
          <View width={20} height={20} borderWidth={2} borderColor="$plum" backgroundColor={chosen ? '$plum' : 'transparent'} />
        )}
      </View>
      <View flex={1} minWidth={0} justifyContent="center" paddingLeft={10} paddingRight={8} paddingVertical={8}>
        <Body>
          <Mono color="$soft" fontSize={15}>
            {setting.code}
          </Mono>{' '}
          {setting.name}
        </Body>
        <Second>
          {against.name} {against.value === undefined ? say.notKnown : [textOf(setting, against.value), setting.unit].filter(Boolean).join(' ')}
          {was && ` = ${was}`}
          {is && say.now({ isText: is })}
          {standstill}
        </Second>
      </View>
      {setting.options ? (
        <View justifyContent="center" paddingRight={16} maxWidth="42%">
          <Strong fontSize={18} color="$plum" textAlign="right">
            {textOf(setting, stored)}
          </Strong>
        </View>
      ) : (
        <View flexDirection="row" alignItems="center">
          <Figure color="$plum">{textOf(setting, stored)}</Figure>
          <View width={56} paddingLeft={6}>
            <Second>{setting.unit}</Second>
          </View>
        </View>
      )}
    </View>
  );
  return (
    <Fragment>
      {onChoose ? (
        <Pressable role="checkbox" aria-checked={chosen} onPress={onChoose} aria-label={`${setting.name} ${setting.code}`}>
          {row}
        </Pressable>
      ) : (
        row
      )}
      {severity !== 'none' && (
        <Finding
          severity={severity}
          sentence={say.theDraftSaysThisDrive({
            value: now.value,
            unit: setting.unit,
            step: setting.step,
            textOf: textOf(setting, stored),
            abs: Math.abs(off) * 100,
            off,
            severity,
          })}
        />
      )}
    </Fragment>
  );
});
