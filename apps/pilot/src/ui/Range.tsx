import type { CSSProperties } from 'react';
import { usePalette } from './theme';

/** A ruled line with a square to push along it: the browser's own range input, dressed as the ledger is. */
const dress = `
.ruled-range { -webkit-appearance: none; appearance: none; background: transparent; height: 48px; margin: 0; flex: 1; min-width: 0; }
.ruled-range::-webkit-slider-runnable-track { height: 3px; background: linear-gradient(to right, var(--done) var(--share), var(--rest) var(--share)); }
.ruled-range::-moz-range-track { height: 3px; background: linear-gradient(to right, var(--done) var(--share), var(--rest) var(--share)); }
.ruled-range::-webkit-slider-thumb { -webkit-appearance: none; width: 26px; height: 26px; margin-top: -12px; background: var(--done); border: 2px solid var(--edge); border-radius: 0; }
.ruled-range::-moz-range-thumb { width: 22px; height: 22px; background: var(--done); border: 2px solid var(--edge); border-radius: 0; }
`;

export interface RangeProps {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  /** while it is pushed, and once more when it is let go */
  onMove: (value: number, letGo: boolean) => void;
}

export function Range(p: RangeProps) {
  const palette = usePalette();
  const share = `${(100 * (p.value - p.min)) / (p.max - p.min)}%`;
  return (
    <>
      <style href="ruled-range" precedence="default">
        {dress}
      </style>
      <input
        type="range"
        className="ruled-range"
        aria-label={p.label}
        min={p.min}
        max={p.max}
        step={p.step}
        value={p.value}
        onChange={(e) => p.onMove(Number(e.target.value), false)}
        onPointerUp={(e) => p.onMove(Number(e.currentTarget.value), true)}
        style={{ '--done': palette.plumFill, '--rest': palette.rule2, '--edge': palette.sheet, '--share': share } as CSSProperties}
      />
    </>
  );
}
