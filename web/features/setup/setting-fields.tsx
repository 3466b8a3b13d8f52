import { CONDITIONS, settingsThatMatter, showsCondition, type ConditionName, type Family } from '@frustum/core';
import type { LoopRow } from '@frustum/contract';
import { useFormContext } from 'react-hook-form';
import { upper } from '../../format/in-family.ts';
import { Pick, Text } from '../../ui/text-field.tsx';
import type { SettingsForm } from './settings-typed.ts';

/** What a family's arithmetic must know beside its value. */
export function SettingFields({ family }: { family: Family }) {
  const { id } = family;
  const typed = useFormContext<SettingsForm>().watch('settings');
  return (
    <>
      {settingsThatMatter(family.settings, typed ?? {}).map(([key, field]) =>
        field.kind === 'choice' ? (
          <Pick<SettingsForm>
            key={`${id}.${key}`}
            name={`settings.${key}`}
            label={upper(field.name)}
            options={[
              ...field.choices.filter((c) => c.id === field.usual),
              ...field.choices.filter((c) => c.id !== field.usual),
            ].map((c) => [c.id, c.name] as const)}
          />
        ) : (
          <Text<SettingsForm>
            key={`${id}.${key}`}
            name={`settings.${key}`}
            label={`${upper(field.name)}, ${field.unit}`}
            hint={String(field.usual)}
            decimal
          />
        ),
      )}
    </>
  );
}

/** A condition: typed, or shown by another loop of the same site. */
export function ConditionFields({
  name,
  site,
  rows,
}: {
  name: ConditionName;
  /** whose loops may show it */
  site: string;
  rows: readonly LoopRow[];
}) {
  const { name: words, unit, usual } = CONDITIONS[name];
  const givers = rows.filter((r) => r.siteName === site && showsCondition(r, name));
  return (
    <>
      <Text<SettingsForm> name={`settings.${name}`} label={`${upper(words)}, ${unit}`} hint={String(usual)} />
      {givers.length > 0 && (
        <Pick<SettingsForm>
          name={`takes.${name}`}
          label={`${upper(words)}, from`}
          options={[['', 'what is typed here'] as const, ...givers.map((r) => [r.loopId, r.loopName] as const)]}
        />
      )}
    </>
  );
}
