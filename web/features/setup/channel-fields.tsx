import { useFormContext } from 'react-hook-form';
import { SIGNALS } from '@frustum/contract';
import { useTestChannelMutation } from '../../app/api.ts';
import { fixed } from '../../format/numbers.ts';
import { Notice } from '../../ui/notice.tsx';
import { channelOf, type ChannelForm } from './channel-form.ts';
import { Pick, Text, Tick } from './text-field.tsx';
import { problemOf } from '../../format/problem.ts';

/** The part of a form that this needs. */
interface WithChannel {
  channel: ChannelForm;
}

const KINDS = [
  ['hand', 'typed by hand, or a recorded trace'],
  ['modbus', 'Modbus TCP, Frustum’s own map'],
  ['modbus-map', 'Modbus TCP, any other map'],
  ['http-json', 'JSON over HTTP'],
  ['mqtt', 'MQTT'],
] as const;

const TYPES = [
  ['int16', '16 bit, signed'],
  ['uint16', '16 bit, unsigned'],
  ['int32', '32 bit, signed'],
  ['uint32', '32 bit, unsigned'],
  ['float32', '32 bit, float'],
] as const;

const WIDE = 'sm:col-span-2 lg:col-span-3';

/** How a reading reaches Frustum, and a button that tries it once. */
export function ChannelFields() {
  const { register, watch } = useFormContext<WithChannel>();
  const kind = watch('channel.kind');
  return (
    <>
      <fieldset className={WIDE}>
        <legend className="text-sm sub">How its reading reaches Frustum</legend>
        {KINDS.map(([value, words]) => (
          <label key={value} className="inline-flex items-center gap-2 min-h-12 mr-6">
            <input type="radio" className="radio" value={value} {...register('channel.kind')} /> {words}
          </label>
        ))}
      </fieldset>
      {(kind === 'modbus' || kind === 'modbus-map') && (
        <>
          <Text<WithChannel> name="channel.host" label="Host" hint="192.168.1.20" />
          <Text<WithChannel> name="channel.port" label="Port" decimal />
          <Text<WithChannel> name="channel.unitId" label="Unit id" decimal />
        </>
      )}
      {kind === 'modbus' && (
        <>
          <Text<WithChannel> name="channel.baseAddress" label="First register" decimal />
          <Tick<WithChannel> name="channel.impedance" label="It measures impedances too" />
          <p className="sub text-sm sm:col-span-2 lg:col-span-3">
            Input registers: +0 mV × 10, +1 °C × 100, +2 and +3 clock in 0.1 s, +4 status (0 = measuring), +5 impedance
            of the glass in MΩ × 10, +6 of the reference in kΩ × 10. Holding: +0 zero × 10, +1 slope × 10 000.
          </p>
        </>
      )}
      {kind === 'modbus-map' && <MapFields />}
      {kind === 'http-json' && (
        <>
          <div className="sm:col-span-2">
            <Text<WithChannel> name="channel.url" label="Address" hint="http://192.168.1.20/now" />
          </div>
          <Text<WithChannel> name="channel.pointer" label="Path to the signal" hint="/probes/main/mv" />
          <Text<WithChannel> name="channel.logIn" label="Log-in, by its name" hint="optional; kept on the server" />
        </>
      )}
      {kind === 'mqtt' && <TopicFields />}
      {(kind === 'http-json' || kind === 'mqtt') && <OwnTimeFields />}
      {(kind === 'modbus-map' || kind === 'http-json' || kind === 'mqtt') && (
        <>
          <SignalFields />
          <TemperatureFields />
          <Text<WithChannel> name="channel.pollSeconds" label="Read every, s" decimal />
          <Text<WithChannel> name="channel.staleSeconds" label="Stale after, s" decimal />
        </>
      )}
      {kind !== 'hand' && <TryIt />}
      <AboutFields />
    </>
  );
}

function MapFields() {
  const { watch } = useFormContext<WithChannel>();
  const [type, temperatureType, from] = watch(['channel.type', 'channel.temperatureType', 'channel.temperatureFrom']);
  const wide = type.endsWith('32') || (from === 'device' && temperatureType.endsWith('32'));
  return (
    <>
      <Pick<WithChannel>
        name="channel.table"
        label="Table"
        options={[
          ['input', 'input registers'],
          ['holding', 'holding registers'],
        ]}
      />
      <Text<WithChannel> name="channel.register" label="Signal register" decimal />
      <Pick<WithChannel> name="channel.type" label="Signal is" options={TYPES} />
      {wide && (
        <Pick<WithChannel>
          name="channel.words"
          label="Of two words, first comes"
          options={[
            ['high-first', 'the high one'],
            ['low-first', 'the low one'],
          ]}
        />
      )}
    </>
  );
}

function TopicFields() {
  const senml = useFormContext<WithChannel>().watch('channel.format') === 'senml';
  return (
    <>
      <Text<WithChannel> name="channel.host" label="Broker" hint="192.168.1.20" />
      <Text<WithChannel> name="channel.brokerPort" label="Port" decimal />
      <Pick<WithChannel>
        name="channel.version"
        label="Spoken as"
        options={[
          ['3.1.1', 'MQTT 3.1.1'],
          ['5', 'MQTT 5'],
        ]}
      />
      <Text<WithChannel> name="channel.topic" label="Topic" hint="hall/line-2/now" />
      <Pick<WithChannel>
        name="channel.format"
        label="A message is"
        options={[
          ['json', 'JSON'],
          ['senml', 'a SenML pack'],
        ]}
      />
      <Text<WithChannel>
        name="channel.pointer"
        label={senml ? 'Name of the signal' : 'Path to the signal'}
        hint={senml ? 'line-2/potential' : '/probe/mv'}
      />
      <Text<WithChannel> name="channel.logIn" label="Log-in, by its name" hint="optional; kept on the server" />
    </>
  );
}

/** When a reading was taken, by the device itself. */
function OwnTimeFields() {
  const [kind, format, buffered] = useFormContext<WithChannel>().watch([
    'channel.kind',
    'channel.format',
    'channel.buffered',
  ]);
  const saysItself = kind === 'mqtt' && format === 'senml';
  return (
    <>
      {!saysItself && (
        <Text<WithChannel> name="channel.clockPointer" label="Path to its clock, s" hint="optional: /uptime" />
      )}
      <Tick<WithChannel> name="channel.buffered" label="Buffered: it sends later what it measured while it was away" />
      {buffered && (
        <p className={`sub text-sm ${WIDE}`}>
          Its readings are kept under their own time
          {saysItself ? '' : ', which its clock must say in seconds since 1970'}. Only a fresh one is live at the bench.
          What is more than a day ahead, or from before the sensor was fitted, is set aside.
        </p>
      )}
    </>
  );
}

const UNITS = Object.entries(SIGNALS).map(([unit, { words }]) => [unit, words] as const);

/** From the number on the wire to the signal. */
function SignalFields() {
  const [quantity, spanUnit] = useFormContext<WithChannel>().watch(['channel.quantity', 'channel.spanUnit']);
  return (
    <>
      <Pick<WithChannel>
        name="channel.quantity"
        label="Times scale, it is"
        options={[...UNITS.slice(0, 1), ['mA', 'a 4–20 mA current'], ...UNITS.slice(1)]}
      />
      <Text<WithChannel> name="channel.scale" label="Scale" hint="0.1" decimal />
      <Text<WithChannel> name="channel.offset" label="Offset" decimal />
      {quantity === 'mA' && (
        <>
          <Pick<WithChannel> name="channel.spanUnit" label="The current stands for" options={UNITS} />
          <Text<WithChannel> name="channel.at4" label={`${spanUnit} at 4 mA`} decimal />
          <Text<WithChannel> name="channel.at20" label={`${spanUnit} at 20 mA`} decimal />
        </>
      )}
    </>
  );
}

/** What belongs to a channel whatever its wire; usual for most, so folded away. */
function AboutFields() {
  const kind = useFormContext<WithChannel>().watch('channel.kind');
  return (
    <details className={WIDE}>
      <summary className="cursor-pointer py-3 sub">Coefficients, thermometer, range, outputs</summary>
      <div className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3">
        <Pick<WithChannel>
          name="channel.coefficientsIn"
          label="Its coefficients live"
          options={[
            ['instrument', 'in the instrument'],
            ['sensor', 'in the sensor’s head'],
          ]}
        />
        <Text<WithChannel> name="channel.compensatedBy" label="Compensated by" hint="its own thermometer" />
        <Text<WithChannel> name="channel.outputs" label="Outputs on it" hint="acid pump, alarm" />
        <Text<WithChannel> name="channel.rangeLow" label="Its range begins at" hint="empty: no limit" decimal />
        <Text<WithChannel> name="channel.rangeHigh" label="and ends at" hint="empty: no limit" decimal />
        {kind !== 'hand' && <Tick<WithChannel> name="channel.off" label="Switched off: nobody reads it" />}
      </div>
    </details>
  );
}

function TemperatureFields() {
  const { watch } = useFormContext<WithChannel>();
  const [kind, from] = watch(['channel.kind', 'channel.temperatureFrom']);
  return (
    <>
      <Pick<WithChannel>
        name="channel.temperatureFrom"
        label="Temperature comes"
        options={[
          ['device', 'from the device'],
          ['fixed', 'fixed, as set here'],
        ]}
      />
      {from === 'fixed' && <Text<WithChannel> name="channel.fixedC" label="Fixed temperature, °C" decimal />}
      {from === 'device' && kind === 'modbus-map' && (
        <>
          <Text<WithChannel> name="channel.temperatureRegister" label="Temperature register" decimal />
          <Pick<WithChannel> name="channel.temperatureType" label="Temperature is" options={TYPES} />
          <Text<WithChannel> name="channel.temperatureScale" label="Temperature scale, °C a step" decimal />
        </>
      )}
      {from === 'device' && (kind === 'http-json' || kind === 'mqtt') && (
        <>
          <Text<WithChannel> name="channel.temperaturePointer" label="Path to the temperature" hint="/probes/main/c" />
          <Pick<WithChannel>
            name="channel.temperatureUnit"
            label="It is in"
            options={[
              ['°C', '°C'],
              ['°F', '°F'],
            ]}
          />
        </>
      )}
    </>
  );
}

/** Reads once and says precisely what came, or at which stage it failed. */
function TryIt() {
  const { getValues } = useFormContext<WithChannel>();
  const [test, { data, error, isLoading }] = useTestChannelMutation();
  return (
    <div className={WIDE}>
      <button
        type="button"
        className="btn btn-outline border-base-300 h-12"
        disabled={isLoading}
        onClick={() => void test({ channel: channelOf(getValues('channel')) })}
      >
        {isLoading ? 'Reading once …' : 'Read it once'}
      </button>
      <div role="status" className="mt-2">
        {error && <Notice kind="trouble">{problemOf(error).detail}</Notice>}
        {!error && data && !data.ok && <Notice kind="trouble">{data.message}</Notice>}
        {!error && data?.ok && (
          <Notice kind="plain">
            <p>
              {data.message} It took {fixed(data.milliseconds, 0)} ms.
            </p>
            <ul className="fig text-[15px] sub">
              {data.raw.map((r) => (
                <li key={r.what}>
                  {r.what}: {r.value}
                </li>
              ))}
            </ul>
          </Notice>
        )}
      </div>
    </div>
  );
}
