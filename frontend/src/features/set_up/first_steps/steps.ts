// What a company needs before the first visit can be placed, and what helps besides.

export interface There {
  depots: number;
  technicians: number;
  /** Technicians with a shift on some day from today on. */
  withHours: number;
  jobTypes: number;
  customers: number;
}

export interface Step {
  title: string;
  words: string;
  to: '/set-up/depots' | '/set-up/people' | '/set-up/job-types' | '/customers/files';
  done: boolean;
  /** Whether a visit can only be placed once this is there. */
  needed: boolean;
}

const counted = (count: number, one: string, many: string) => (count === 1 ? `1 ${one}` : `${count} ${many}`);

export function stepsOf({ depots, technicians, withHours, jobTypes, customers }: There): Step[] {
  return [
    {
      title: 'Depots',
      words: depots > 0 ? counted(depots, 'depot', 'depots') : 'Where technicians’ days begin and end.',
      to: '/set-up/depots',
      done: depots > 0,
      needed: true,
    },
    {
      title: 'Technicians',
      words: technicians > 0 ? counted(technicians, 'technician', 'technicians') : 'Who does the visits.',
      to: '/set-up/people',
      done: technicians > 0,
      needed: true,
    },
    {
      title: 'Working hours',
      words:
        technicians > 0
          ? `${withHours} of ${counted(technicians, 'technician has', 'technicians have')} working hours.`
          : 'Without them nobody is planned.',
      to: '/set-up/people',
      done: withHours > 0,
      needed: true,
    },
    {
      title: 'Job types',
      words:
        jobTypes > 0
          ? counted(jobTypes, 'job type', 'job types')
          : 'They fill in length, skills and checklist. Without one, the length is typed on each call.',
      to: '/set-up/job-types',
      done: jobTypes > 0,
      needed: false,
    },
    {
      title: 'Customers',
      words:
        customers > 0
          ? 'There are customers.'
          : 'Bring them in from a file. Without one, the first call makes the first customer.',
      to: '/customers/files',
      done: customers > 0,
      needed: false,
    },
  ];
}
