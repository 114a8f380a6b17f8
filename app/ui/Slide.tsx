import type { ReactNode } from 'react';
import { usePalette } from './Look';
import { TARGET } from './theme';

/** A whole number by the platform's own slider: thumbs, keys and screen readers know it. */
export function Slide({
  label,
  value,
  most,
  says,
  onChange,
}: {
  label: string;
  value: number;
  most: number;
  /** The value in words. */
  says: string;
  onChange: (value: number) => void;
}): ReactNode {
  const { action } = usePalette();
  return (
    <input
      type="range"
      aria-label={label}
      aria-valuetext={says}
      min={0}
      max={most}
      step={1}
      value={value}
      onChange={(event) => onChange(Number(event.target.value))}
      style={{ width: '100%', height: TARGET, margin: 0, accentColor: action, cursor: 'pointer' }}
    />
  );
}
