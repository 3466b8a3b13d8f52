import { yupResolver } from '@hookform/resolvers/yup';
import { FormProvider, useForm, type Resolver } from 'react-hook-form';
import { changeSiteSchema, type SetUpSite } from '@frustum/contract';
import { useChangeSiteMutation } from '../../app/api.ts';
import { problemOf } from '../../format/problem.ts';
import { Notice } from '../../ui/notice.tsx';
import { Text } from '../../ui/text-field.tsx';
import { ChangeHistory } from './change-history.tsx';

interface SiteForm {
  readonly name: string;
  readonly timeZone: string;
  readonly why: string;
}

const check = yupResolver(changeSiteSchema) as unknown as Resolver<{ to: SiteForm }>;
const resolver: Resolver<SiteForm> = async (form, context, options) => {
  const { name, timeZone, why } = form;
  const asked = { version: 1, to: { name, timeZone }, why } as unknown as { to: SiteForm };
  const { errors } = await check(asked, context, options as never);
  return errors.to ? { values: {}, errors: errors.to } : { values: form, errors: {} };
};

const ZONES = Intl.supportedValuesOf('timeZone');

/** A site's name and time zone, or the whole of it put away. */
export function SiteEditor({ site, names, onDone }: { site: SetUpSite; names: readonly string[]; onDone: () => void }) {
  const { siteId, version } = site;
  const [change, { error, isLoading }] = useChangeSiteMutation();
  const form = useForm<SiteForm>({
    resolver,
    defaultValues: { name: site.name, timeZone: site.timeZone, why: '' },
  });
  const name = form.watch('name').trim();
  const taken = name !== site.name && names.includes(name);
  const keep = async (to: object, why: string) => {
    const answer = await change({ siteId, body: { version, to, why } });
    if (answer.data) onDone();
  };
  const submit = form.handleSubmit(({ why, ...to }) => keep(to, why));
  return (
    <FormProvider {...form}>
      <form
        noValidate
        aria-label={`Change ${site.name}`}
        onSubmit={(e) => void submit(e)}
        className="grid sm:grid-cols-2 lg:grid-cols-3 gap-x-5 gap-y-3 border-l-[3px] border-primary pl-4 py-2 mb-3"
      >
        <NameField taken={taken} />
        <Text<SiteForm> name="timeZone" label="Time zone" hint="Europe/Paris" list="zones" />
        <datalist id="zones">
          {ZONES.map((zone) => (
            <option key={zone} value={zone} />
          ))}
        </datalist>
        <Text<SiteForm> name="why" label="Why" hint="optional" />
        {error && (
          <div className="sm:col-span-2 lg:col-span-3">
            <Notice kind="trouble" role="alert">
              {problemOf(error).detail}
            </Notice>
          </div>
        )}
        <div className="flex flex-wrap gap-2 sm:col-span-2 lg:col-span-3">
          <button className="btn btn-primary h-12" disabled={isLoading || taken}>
            Keep it
          </button>
          <button
            type="button"
            className="btn btn-ghost h-12 font-normal ml-auto"
            disabled={isLoading}
            onClick={() => void keep({ archived: true }, form.getValues('why'))}
          >
            Archive the site and its loops
          </button>
        </div>
        <div className="sm:col-span-2 lg:col-span-3">
          <ChangeHistory of={siteId} />
        </div>
      </form>
    </FormProvider>
  );
}

function NameField({ taken }: { taken: boolean }) {
  return (
    <div>
      <Text<SiteForm> name="name" label="Site" />
      {taken && (
        <p role="status" className="text-error text-sm mt-1">
          There is a site of that name already.
        </p>
      )}
    </div>
  );
}
