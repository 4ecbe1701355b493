// What a company needs before the first visit can be placed, and what helps besides.

export interface There {
  /** Whether somebody has said who the company is. */
  named: boolean;
  depots: number;
  technicians: number;
  /** Technicians with a shift on some day from today on. */
  withHours: number;
  /** Technicians who have an account, and so work from the phone. */
  withAccount: number;
  jobTypes: number;
  customers: number;
}

export interface Step {
  title: string;
  words: string;
  to:
    | '/set-up/company'
    | '/set-up/depots'
    | '/set-up/people'
    | '/set-up/job-types'
    | '/set-up/accounts'
    | '/customers/files';
  done: boolean;
  /** Whether a visit can only be placed once this is there. */
  needed: boolean;
}

const counted = (count: number, one: string, many: string) => (count === 1 ? `1 ${one}` : `${count} ${many}`);

export function stepsOf(there: There): Step[] {
  return [...before(there), ...besides(there)];
}

/** Without these no visit can be placed. */
function before({ named, depots, technicians, withHours }: There): Step[] {
  return [
    {
      title: 'Company',
      words: named ? 'Name, time zone and country are said.' : 'Its name, address, time zone and country.',
      to: '/set-up/company',
      done: named,
      needed: false,
    },
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
  ];
}

/** These help. */
function besides({ technicians, withAccount, jobTypes, customers }: There): Step[] {
  return [
    {
      title: 'Job types',
      words:
        jobTypes > 0
          ? counted(jobTypes, 'job type', 'job types')
          : 'They fill in length, skills and checklist. Tick those of your trade, or type the length on each call.',
      to: '/set-up/job-types',
      done: jobTypes > 0,
      needed: false,
    },
    {
      title: 'Accounts',
      words:
        technicians > 0
          ? `${withAccount} of ${counted(technicians, 'technician works', 'technicians work')} from the phone.`
          : 'Invite who works in the office, and technicians to their phones.',
      to: '/set-up/accounts',
      done: technicians > 0 && withAccount === technicians,
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
