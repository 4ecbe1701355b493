import { SelectField } from '@/design/Field';
import { useJobTypes } from '@/features/catalogue';

interface SiteProps {
  sites: readonly { id: number; name: string; address: string }[];
  site: number | null;
  onChange: (site: number | null) => void;
}

/** Where, if there are several. */
export function SiteChoice({ sites, site, onChange }: SiteProps) {
  if (sites.length < 2) return null;
  return (
    <SelectField
      label="Site"
      name="site_id"
      value={site ?? ''}
      onChange={(event) => onChange(Number(event.target.value) || null)}
    >
      <option value="">choose…</option>
      {sites.map((row) => (
        <option key={row.id} value={row.id}>
          {row.name}, {row.address}
        </option>
      ))}
    </SelectField>
  );
}

interface JobProps {
  job: number | null;
  none: string;
  onChange: (job: number | null) => void;
}

/** What kind of work, of those that are offered. */
export function JobChoice({ job, none, onChange }: JobProps) {
  const jobs = (useJobTypes().data ?? []).filter((row) => !row.retired);
  return (
    <SelectField
      label="Job type"
      hint="its lines, length and people are filled in"
      autoFocus
      value={job ?? ''}
      onChange={(event) => onChange(Number(event.target.value) || null)}
    >
      <option value="">{none}</option>
      {jobs.map((row) => (
        <option key={row.id} value={row.id}>
          {row.name}
        </option>
      ))}
    </SelectField>
  );
}
