import { yupResolver } from '@hookform/resolvers/yup';
import { FormProvider, useForm, type FieldErrors, type Resolver } from 'react-hook-form';
import { Link, useNavigate, useParams } from 'react-router';
import { testChannelSchema, type LoopRow } from '@frustum/contract';
import { useChangeChannelMutation, useSensorQuery } from '../../app/api.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { Notice } from '../../ui/notice.tsx';
import { ChannelFields } from '../../wires/channel-fields.tsx';
import type { ChannelForm } from '../../wires/channel-form.ts';
import { channelOf, formOf } from '../../wires/wire-forms.ts';
import { problemOf } from '../../format/problem.ts';

interface Form {
  channel: ChannelForm;
}

const check = yupResolver(testChannelSchema) as unknown as Resolver<Form>;
const resolver: Resolver<Form> = async (form, context, options) => {
  const asked = { channel: channelOf(form.channel) } as unknown as Form;
  const { errors } = await check(asked, context, options);
  return Object.keys(errors).length
    ? { values: {}, errors: errors as FieldErrors<Form> }
    : { values: form, errors: {} };
};

export function Page() {
  const { sensorId = '' } = useParams();
  const { data, error } = useSensorQuery(sensorId);
  if (data) return <Channel key={data.row.channelId} row={data.row} />;
  return <NotYet what="Reading the channel" error={error} />;
}

/** How a loop's reading reaches Frustum, to be changed. */
function Channel({ row }: { row: LoopRow }) {
  const navigate = useNavigate();
  const [change, { isLoading, error }] = useChangeChannelMutation();
  const form = useForm<Form>({ resolver, defaultValues: { channel: formOf(row.channel) } });
  const submit = form.handleSubmit(async ({ channel }) => {
    const body = {
      channel: testChannelSchema.cast({ channel: channelOf(channel) }).channel,
      version: row.channelVersion,
    };
    const answer = await change({ channelId: row.channelId, body });
    if (answer.data) void navigate(`/sensors/${row.sensorId}`);
  });
  return (
    <main className="px-4 lg:px-7 py-5 max-w-4xl w-full">
      <h1>Channel of {row.loopName}</h1>
      {row.openRunId && (
        <div className="mt-3">
          <Notice kind="plain">A run rests on this channel. End it first; until then nothing here can be kept.</Notice>
        </div>
      )}
      <FormProvider {...form}>
        <form
          noValidate
          aria-label="Channel"
          onSubmit={(e) => void submit(e)}
          className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3 mt-4"
        >
          <ChannelFields />
          {error && (
            <div className="sm:col-span-2 lg:col-span-3">
              <Notice kind="trouble" role="alert">
                {problemOf(error).detail}
              </Notice>
            </div>
          )}
          <button className="btn btn-primary h-14 text-lg" disabled={isLoading}>
            {isLoading ? 'Changing …' : 'Change the channel'}
          </button>
          <Link className="btn btn-ghost h-14 text-lg" to={`/sensors/${row.sensorId}`}>
            Leave it as it is
          </Link>
        </form>
      </FormProvider>
    </main>
  );
}
