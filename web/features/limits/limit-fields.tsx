import { LabelledInput } from '../../ui/labelled.tsx';
import type { LimitTexts } from './limit-texts.ts';

interface FieldsProps {
  readonly unit: string;
  readonly texts: LimitTexts;
  readonly onChange: (texts: LimitTexts) => void;
}

/** Every limit of a loop, as it is written there. */
export function LimitFieldset({ unit, texts, onChange }: FieldsProps) {
  const field = (key: Exclude<keyof LimitTexts, 'daily'>, label: string) => (
    <LabelledInput
      label={label}
      keyboard="decimal"
      value={texts[key]}
      onChange={(text) => onChange({ ...texts, [key]: text })}
    />
  );
  return (
    <div className="grid grid-cols-2 sm:grid-cols-4 gap-x-4 gap-y-2">
      {field('actLow', `Act below, ${unit}`)}
      {field('warnLow', `Warn below, ${unit}`)}
      {field('warnHigh', `Warn above, ${unit}`)}
      {field('actHigh', `Act above, ${unit}`)}
      {field('forMinutes', 'Beyond for, min')}
      {field('perHour', `Change within an hour, ${unit}`)}
      {field('frozenMinutes', 'Without moving for, min')}
      {field('silentMinutes', 'Silent or unread for, min')}
      <label className="flex items-center gap-3 min-h-12 cursor-pointer col-span-2 sm:col-span-4">
        <input
          type="checkbox"
          className="toggle"
          checked={texts.daily}
          onChange={(e) => onChange({ ...texts, daily: e.target.checked })}
        />
        The limits move along with the usual course of the day
      </label>
    </div>
  );
}
