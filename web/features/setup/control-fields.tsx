import { Pick, Text } from '../../ui/text-field.tsx';

/** What a form says of what acts on a loop's value. */
export interface ControlForm {
  readonly controls: string;
  readonly controlAction: string;
  readonly holdMinutes: string;
}

/** What acts on the value. */
export const ControlFields = () => (
  <>
    <Text<ControlForm> name="controls" label="It controls" hint="acid dosing; empty for nothing" />
    <Pick<ControlForm>
      name="controlAction"
      label="What that does to the value"
      options={[
        ['', 'not said'],
        ['lowers', 'lowers it'],
        ['raises', 'raises it'],
      ]}
    />
    <Text<ControlForm> name="holdMinutes" label="It may be on hold for … min" hint="then somebody is told" decimal />
  </>
);
