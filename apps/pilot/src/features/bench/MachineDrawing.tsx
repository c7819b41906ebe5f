import Svg, { Circle, G, Line, Path, Rect, Text } from 'react-native-svg';
import type { BenchView } from '@yare/contract';
import { formatFigure, fromSi } from '@yare/core';
import { say } from '@yare/words/pages/bench';
import { fontFamily } from '../../ui/palette';
import { usePalette } from '../../ui/theme';

const width = 390;
const height = 208;

/** A figure with its unit, and what it is under it. */
function Reading({
  x,
  y,
  label,
  value,
  anchor = 'middle',
}: {
  x: number;
  y: number;
  label: string;
  value: string;
  anchor?: 'start' | 'middle' | 'end';
}) {
  const palette = usePalette();
  return (
    <G>
      <Text x={x} y={y} fill={palette.ink} fontSize={16} fontFamily={fontFamily.monoBold} textAnchor={anchor}>
        {value}
      </Text>
      <Text x={x} y={y + 15} fill={palette.soft} fontSize={13} fontFamily={fontFamily.text} textAnchor={anchor}>
        {label}
      </Text>
    </G>
  );
}

/** The motor with its shaft: an arrow over it shows which way it turns, nothing when it stands. */
function Motor({ x, y, speed }: { x: number; y: number; speed: number }) {
  const palette = usePalette();
  const turns = Math.abs(speed) > 2;
  return (
    <G>
      <Rect x={x - 34} y={y - 22} width={58} height={44} fill={palette.sheet} stroke={palette.ink} strokeWidth={2} />
      {[-13, -4.5, 4.5, 13].map((dy) => (
        <Line key={dy} x1={x - 30} x2={x + 20} y1={y + dy} y2={y + dy} stroke={palette.rule2} strokeWidth={1.5} />
      ))}
      <Line x1={x - 54} x2={x - 34} y1={y} y2={y} stroke={palette.ink} strokeWidth={4} />
      {turns && (
        <Path
          d={speed > 0 ? `M${x - 24} ${y - 30} h32 m-7 -5 l7 5 l-7 5` : `M${x + 14} ${y - 30} h-32 m7 -5 l-7 5 l7 5`}
          stroke={palette.green}
          strokeWidth={2.5}
          fill="none"
        />
      )}
      <Reading x={x + 36} y={y + 2} label={say.shaft2} value={say.rpm({ speed })} anchor="start" />
    </G>
  );
}

/** A valve as two triangles, filled by how far it is shut. */
function Valve({ x, y, open }: { x: number; y: number; open: number }) {
  const palette = usePalette();
  return (
    <G>
      <Path
        d={`M${x - 13} ${y - 10} L${x + 13} ${y + 10} V${y - 10} L${x - 13} ${y + 10} Z`}
        fill={open < 0.02 ? palette.ink : palette.sheet}
        stroke={palette.ink}
        strokeWidth={2}
      />
      <Line x1={x} y1={y} x2={x} y2={y - 18} stroke={palette.ink} strokeWidth={2} />
      <Line x1={x - 9} y1={y - 18} x2={x + 9} y2={y - 18} stroke={palette.ink} strokeWidth={3} />
    </G>
  );
}

const bar = (pa: number): string => say.bar({ fromSi: fromSi(pa, 'bar') });

function Pump({ view }: { view: BenchView }) {
  const palette = usePalette();
  const { seen } = view;
  const flows = seen.flow > 1e-5;
  const pipe = flows ? palette.blue : palette.rule2;
  const level = Math.max(-1.5, Math.min(2, seen.level));
  const surface = 118 - level * 16;
  return (
    <G>
      <Path d="M14 72 V168 H76 V72" stroke={palette.ink} strokeWidth={2} fill="none" />
      <Rect x={16} y={surface} width={58} height={Math.max(0, 167 - surface)} fill={palette.blueGround} />
      <Line x1={14} x2={76} y1={surface} y2={surface} stroke={palette.blue} strokeWidth={2} />
      <Path d="M76 150 H128 V124" stroke={pipe} strokeWidth={7} fill="none" />
      <Path d="M148 104 H366" stroke={pipe} strokeWidth={7} fill="none" />
      <Circle cx={128} cy={104} r={22} fill={palette.sheet} stroke={palette.ink} strokeWidth={2} />
      <Path d="M128 82 H150 V104" stroke={palette.ink} strokeWidth={2} fill="none" />
      <Path d="M120 94 L142 104 L120 114 Z" fill={flows ? palette.blue : palette.soft} />
      <Path d="M182 94 V114 M182 104 L170 96 V112 Z" stroke={palette.ink} strokeWidth={2} fill={palette.sheet} />
      <Valve x={318} y={104} open={seen.valve} />
      <Circle cx={250} cy={62} r={17} fill={palette.sheet} stroke={palette.ink} strokeWidth={2} />
      <Line x1={250} y1={79} x2={250} y2={101} stroke={palette.ink} strokeWidth={2} />
      <Line
        x1={250}
        y1={62}
        x2={250 + 12 * Math.cos(Math.PI * (0.75 + 1.5 * Math.min(1, seen.pressure / 1e6)))}
        y2={62 + 12 * Math.sin(Math.PI * (0.75 + 1.5 * Math.min(1, seen.pressure / 1e6)))}
        stroke={palette.plum}
        strokeWidth={2.5}
      />
      <Reading x={250} y={24} label="pressure" value={bar(seen.pressure)} />
      <Reading x={380} y={60} label="flow" value={`${formatFigure(seen.flow * 3600, 1)} m³/h`} anchor="end" />
      {seen.sensor === 'm' && <Reading x={45} y={48} label="level" value={`${formatFigure(seen.level, 2)} m`} />}
      <Motor x={214} y={158} speed={seen.shaftSpeed} />
      <Path d="M160 158 H128 V126" stroke={palette.ink} strokeWidth={3} fill="none" strokeDasharray="3 3" />
    </G>
  );
}

function Fan({ view }: { view: BenchView }) {
  const palette = usePalette();
  const { seen } = view;
  const flows = seen.flow > 1e-3;
  const ribs = Math.min(9, 2 + Math.round(seen.clogging));
  return (
    <G>
      <Path d="M8 74 H120 M8 122 H120" stroke={palette.ink} strokeWidth={2} />
      <Rect x={44} y={74} width={26} height={48} fill={palette.sheet} stroke={palette.ink} strokeWidth={2} />
      {Array.from({ length: ribs }, (_, i) => (
        <Line
          key={i}
          x1={44 + (26 * (i + 1)) / (ribs + 1)}
          x2={44 + (26 * (i + 1)) / (ribs + 1)}
          y1={74}
          y2={122}
          stroke={palette.rule2}
          strokeWidth={2}
        />
      ))}
      <Circle cx={148} cy={98} r={36} fill={palette.sheet} stroke={palette.ink} strokeWidth={2} />
      {[0, 60, 120, 180, 240, 300].map((a) => (
        <Path
          key={a}
          d="M148 98 q10 -13 3 -28"
          stroke={flows ? palette.blue : palette.soft}
          strokeWidth={3}
          fill="none"
          transform={`rotate(${a} 148 98)`}
        />
      ))}
      <Path d="M150 62 H382 M182 110 H382" stroke={palette.ink} strokeWidth={2} />
      <G transform={`rotate(${90 * (1 - seen.valve)} 300 86)`}>
        <Line x1={278} x2={322} y1={86} y2={86} stroke={palette.plum} strokeWidth={4} />
      </G>
      <Circle cx={300} cy={86} r={3.5} fill={palette.ink} />
      {flows && <Path d="M340 86 h30 m-8 -5 l8 5 l-8 5" stroke={palette.blue} strokeWidth={2.5} fill="none" />}
      <Reading x={236} y={32} label={say.staticPressure} value={say.pa({ pressure: seen.pressure })} />
      <Line x1={236} y1={50} x2={236} y2={76} stroke={palette.ink} strokeWidth={1.5} />
      <Reading x={57} y={148} label="filter" value={`${formatFigure(seen.clogging, 1)} ×`} />
      <Reading x={378} y={138} label="flow" value={`${formatFigure(seen.flow * 3600, 0)} m³/h`} anchor="end" />
      <Motor x={214} y={158} speed={seen.shaftSpeed} />
      <Path d="M160 158 H148 V136" stroke={palette.ink} strokeWidth={3} fill="none" strokeDasharray="3 3" />
    </G>
  );
}

/** The shoe of a holding brake at the shaft; nothing where none is fitted. */
function Brake({ open, x, y, wordsY }: { open: boolean | null; x: number; y: number; wordsY: number }) {
  const palette = usePalette();
  if (open === null) return null;
  return (
    <G>
      <Rect x={x} y={y} width={10} height={24} fill={open ? palette.sheet : palette.ink} stroke={palette.ink} strokeWidth={2} />
      <Reading x={x - 8} y={wordsY} label={open ? 'open' : say.holdsTheShaft} value={say.brake} anchor="end" />
    </G>
  );
}

function Conveyor({ view }: { view: BenchView }) {
  const palette = usePalette();
  const { seen } = view;
  const heap = Math.min(26, 3 + seen.mass / 9);
  return (
    <G>
      <G transform="rotate(-6 195 92)">
        <Circle cx={52} cy={98} r={17} fill={palette.sheet} stroke={palette.ink} strokeWidth={2} />
        <Circle cx={338} cy={98} r={17} fill={palette.sheet} stroke={palette.ink} strokeWidth={2} />
        <Path d="M52 81 H338 M52 115 H338" stroke={palette.ink} strokeWidth={3} />
        {seen.mass > 0.5 && (
          <Path d={`M84 79 q18 ${-heap} 52 ${-heap} h92 q30 0 56 ${heap} Z`} fill={palette.yellowGround} stroke={palette.yellow} strokeWidth={1.5} />
        )}
        {[110, 166, 222, 278].map((x) => (
          <Circle key={x} cx={x} cy={90} r={5} fill={palette.sheet} stroke={palette.rule2} strokeWidth={2} />
        ))}
      </G>
      <Path d="M66 20 h40 l-9 22 h-22 Z" fill={palette.sheet} stroke={palette.ink} strokeWidth={2} />
      <Reading x={150} y={34} label={say.onTheBelt2} value={say.kg({ mass: seen.mass })} anchor="start" />
      <Reading x={290} y={34} label={say.belt} value={`${formatFigure(seen.beltSpeed, 2)} m/s`} />
      <Motor x={214} y={158} speed={seen.shaftSpeed} />
      <Path d="M160 158 H60 V118" stroke={palette.ink} strokeWidth={3} fill="none" strokeDasharray="3 3" />
      <Brake open={seen.brakeOpen} x={140} y={146} wordsY={188} />
    </G>
  );
}

function Hoist({ view }: { view: BenchView }) {
  const palette = usePalette();
  const { seen } = view;
  const turns = Math.abs(seen.shaftSpeed) > 2;
  return (
    <G>
      <Circle cx={150} cy={52} r={32} fill={palette.sheet} stroke={palette.ink} strokeWidth={2} />
      <Path d="M150 52 L182 52" stroke={palette.rule2} strokeWidth={3} />
      <Line x1={182} x2={182} y1={52} y2={128} stroke={palette.ink} strokeWidth={2} />
      <Rect x={158} y={128} width={48} height={38} fill={palette.yellowGround} stroke={palette.yellow} strokeWidth={1.5} />
      {turns && (
        <Path
          d={seen.shaftSpeed > 0 ? 'M226 160 V118 m-7 10 l7 -10 l7 10' : 'M226 118 V160 m-7 -10 l7 10 l7 -10'}
          stroke={palette.green}
          strokeWidth={3}
          fill="none"
        />
      )}
      <Reading x={300} y={138} label={say.onTheHook} value={say.kg({ mass: seen.mass })} />
      <Reading x={300} y={34} label={say.shaft2} value={say.rpm2({ shaftSpeed: seen.shaftSpeed })} />
      <Brake open={seen.brakeOpen} x={104} y={40} wordsY={84} />
    </G>
  );
}

function Agitator({ view }: { view: BenchView }) {
  const palette = usePalette();
  const { seen } = view;
  const turns = Math.abs(seen.shaftSpeed) > 2;
  return (
    <G>
      <Path d="M130 78 V166 q0 26 26 26 h78 q26 0 26 -26 V78" stroke={palette.ink} strokeWidth={2} fill="none" />
      <Path d="M132 104 V166 q0 24 24 24 h78 q24 0 24 -24 V104 Z" fill={palette.blueGround} />
      <Rect x={176} y={14} width={38} height={50} fill={palette.sheet} stroke={palette.ink} strokeWidth={2} />
      {[22, 32, 42, 52].map((y) => (
        <Line key={y} x1={182} x2={208} y1={y} y2={y} stroke={palette.rule2} strokeWidth={1.5} />
      ))}
      <Line x1={195} x2={195} y1={64} y2={160} stroke={palette.ink} strokeWidth={4} />
      <Path d="M160 152 L195 160 L230 152 M160 168 L195 160 L230 168" stroke={turns ? palette.blue : palette.soft} strokeWidth={4} fill="none" />
      {turns && (
        <Path
          d={seen.shaftSpeed > 0 ? 'M170 126 q25 14 48 0 m-9 -3 l9 3 l-3 9' : 'M220 126 q-25 14 -48 0 m9 -3 l-9 3 l3 9'}
          stroke={palette.green}
          strokeWidth={2.5}
          fill="none"
        />
      )}
      <Reading x={64} y={96} label={say.shaft2} value={say.rpm2({ shaftSpeed: seen.shaftSpeed })} />
      <Reading x={326} y={96} label="winding" value={`${formatFigure(seen.windingTemperature, 0)} °C`} />
    </G>
  );
}

/** The machine, drawn plainly with what one would read beside it. */
export function MachineDrawing({ view }: { view: BenchView }) {
  const Drawing = { pump: Pump, fan: Fan, conveyor: Conveyor, hoist: Hoist, agitator: Agitator }[view.kind];
  return (
    <Svg
      width="100%"
      viewBox={`0 0 ${width} ${height}`}
      style={{ aspectRatio: width / height, maxHeight: 260 }}
      role="img"
      aria-label={say.theRpm({ kind: view.kind, shaftSpeed: view.seen.shaftSpeed })}
    >
      <Drawing view={view} />
    </Svg>
  );
}
