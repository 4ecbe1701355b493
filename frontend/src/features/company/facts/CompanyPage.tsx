import { toast } from 'sonner';
import { z } from 'zod';
import { sentenceOf } from '@/api/client';
import type { SchemaCompanyOut } from '@/api/types';
import { Form, FormArea, FormSelect, FormText, KeepOrLeave, useKeptForm } from '@/design/form';
import { Notice } from '@/design/Notice';
import { may, useSession } from '@/features/people';
import { setTimeZone } from '@/shared/time';
import { useChangeCompany, useCompany, useCountries } from '../queries';
import { countryName } from './countries';
import { LogoField } from './LogoField';

/** Who the company is, as it stands on what customers get in their hands. */
export function CompanyPage() {
  const company = useCompany();
  const canChange = may(useSession(), 'change_settings');
  return (
    <div className="max-w-2xl space-y-6 p-4">
      <h1 className="text-lg font-semibold">Company</h1>
      {company.isError && <Notice tone="bad">{sentenceOf(company.error)}</Notice>}
      {company.data && <Facts company={company.data} canChange={canChange} />}
      {company.data && <LogoField mark={company.data.logo} canChange={canChange} />}
    </div>
  );
}

const schema = z.object({
  name: z.string().trim().min(1, 'A company needs a name'),
  address: z.string(),
  phone: z.string(),
  email: z.union([z.literal(''), z.email('An e-mail address, like office@example.org')]),
  tax_number: z.string(),
  country: z.string(),
  region: z.string(),
  time_zone: z.string().min(1, 'Choose the time zone'),
  currency: z.string().regex(/^[A-Za-z]{3}$/, 'Three letters, like EUR'),
});

function Facts({ company, canChange }: { company: SchemaCompanyOut; canChange: boolean }) {
  const change = useChangeCompany();
  const { name, address, phone, email, tax_number, country, region, time_zone, currency } = company;
  const kept = useKeptForm({
    schema,
    values: { name, address, phone, email, tax_number, country, region, time_zone, currency },
    keep: async (read) => {
      const row = await change.mutateAsync({ ...read, version: company.version });
      setTimeZone(row.time_zone);
      toast.success(`${row.name} is saved`);
    },
  });
  return (
    <Form kept={kept} label="Company" className="space-y-2">
      <fieldset disabled={!canChange} className="space-y-2">
        <FormText name="name" label="Name" maxLength={120} />
        <FormArea name="address" label="Address" rows={3} maxLength={300} />
        <div className="grid grid-cols-3 gap-2">
          <FormText name="phone" label="Phone" type="tel" maxLength={40} />
          <FormText name="email" label="E-mail" type="email" maxLength={254} />
          <FormText name="tax_number" label="Tax number" maxLength={40} />
        </div>
        <Whereabouts country={kept.form.watch('country')} zone={time_zone} />
        {canChange && <KeepOrLeave words="Save company" />}
      </fieldset>
    </Form>
  );
}

/** Where it is: the country and its part for the public holidays, the zone in which its clocks run. */
function Whereabouts({ country, zone }: { country: string; zone: string }) {
  const countries = useCountries();
  const known = (countries.data ?? [])
    .map((row) => ({ ...row, name: countryName(row.code) }))
    .sort((a, b) => a.name.localeCompare(b.name));
  const regions = known.find((row) => row.code === country)?.regions ?? [];
  const zones = new Set([zone, ...Intl.supportedValuesOf('timeZone')]);
  return (
    <div className="grid grid-cols-2 gap-2">
      <FormSelect name="country" label="Country">
        <option value="">not said</option>
        {known.map((row) => (
          <option key={row.code} value={row.code}>
            {row.name}
          </option>
        ))}
      </FormSelect>
      <FormSelect name="region" label="Region" hint="Where public holidays differ within the country.">
        <option value="">the whole country</option>
        {regions.map((row) => (
          <option key={row.key} value={row.key}>
            {row.name}
          </option>
        ))}
      </FormSelect>
      <FormSelect
        name="time_zone"
        label="Time zone"
        hint="All times are shown in it. It stays as it is once there are visits."
      >
        {[...zones].map((name) => (
          <option key={name}>{name}</option>
        ))}
      </FormSelect>
      <FormText name="currency" label="Currency" hint="Three letters, like EUR." maxLength={3} />
    </div>
  );
}
