// What a company names itself, and where each kind is kept.

import { api, data } from '@/api/client';
import type { SchemaKeyNameChangeIn, SchemaKeyNameMergeIn, SchemaKeyNameOut } from '@/api/types';

export interface Use {
  what: string;
  count: number;
}

export interface Kind {
  /** Of the list in the query cache: the same that fields and filters read. */
  key: string;
  title: string;
  one: string;
  about: string;
  list: () => Promise<SchemaKeyNameOut[]>;
  add: (name: string) => Promise<SchemaKeyNameOut>;
  change: (code: string, body: SchemaKeyNameChangeIn) => Promise<SchemaKeyNameOut>;
  uses: (code: string) => Promise<Use[]>;
  merge: (code: string, body: SchemaKeyNameMergeIn) => Promise<SchemaKeyNameOut>;
}

const path = (code: string) => ({ params: { path: { code } } });

export const KINDS = {
  skills: {
    key: 'skills',
    title: 'Skills',
    one: 'skill',
    about:
      'What people can do, at levels from 1 to 5. Job types ask for skills; only people who have them are offered.',
    list: () => data(api.GET('/api/v1/people/skills')),
    add: (name) => data(api.POST('/api/v1/people/skills', { body: { name } })),
    change: (code, body) => data(api.PUT('/api/v1/people/skills/{code}', { ...path(code), body })),
    uses: (code) => data(api.GET('/api/v1/people/skills/{code}/uses', path(code))),
    merge: (code, body) => data(api.POST('/api/v1/people/skills/{code}/merge', { ...path(code), body })),
  },
  certificates: {
    key: 'certificates',
    title: 'Certificates',
    one: 'certificate',
    about:
      'Papers that the law or a customer asks for. Who goes must hold a valid one on that day, where a job type asks for it.',
    list: () => data(api.GET('/api/v1/people/certificates')),
    add: (name) => data(api.POST('/api/v1/people/certificates', { body: { name } })),
    change: (code, body) => data(api.PUT('/api/v1/people/certificates/{code}', { ...path(code), body })),
    uses: (code) => data(api.GET('/api/v1/people/certificates/{code}/uses', path(code))),
    merge: (code, body) =>
      data(api.POST('/api/v1/people/certificates/{code}/merge', { ...path(code), body })),
  },
  vehicles: {
    key: 'vehicles',
    title: 'Vehicles',
    one: 'vehicle',
    about: 'What technicians drive: plate, depot, inspection, and what a kilometre costs.',
    list: () => data(api.GET('/api/v1/people/vehicles')),
    add: (name) => data(api.POST('/api/v1/people/vehicles', { body: { name } })),
    change: (code, body) => data(api.PUT('/api/v1/people/vehicles/{code}', { ...path(code), body })),
    uses: (code) => data(api.GET('/api/v1/people/vehicles/{code}/uses', path(code))),
    merge: (code, body) => data(api.POST('/api/v1/people/vehicles/{code}/merge', { ...path(code), body })),
  },
  tags: {
    key: 'tags',
    title: 'Tags',
    one: 'tag',
    about: 'Words to mark customers and orders with, to find them again by.',
    list: () => data(api.GET('/api/v1/company/tags')),
    add: (name) => data(api.POST('/api/v1/company/tags', { body: { name } })),
    change: (code, body) => data(api.PUT('/api/v1/company/tags/{code}', { ...path(code), body })),
    uses: (code) => data(api.GET('/api/v1/company/tags/{code}/uses', path(code))),
    merge: (code, body) => data(api.POST('/api/v1/company/tags/{code}/merge', { ...path(code), body })),
  },
} satisfies Record<string, Kind>;
