import { useQuery } from '@tanstack/react-query';
import { api, data } from '@/api/client';
import type { SchemaRegionFileOut } from '@/api/types';

export const regionKey = ['region'] as const;

export const isUnderWay = ({ state }: Pick<SchemaRegionFileOut, 'state'>) =>
  state === 'waiting' || state === 'running';

/** What there is of the region; looked at again while another one is being read. */
export const useRegion = () =>
  useQuery({
    queryKey: regionKey,
    queryFn: () => data(api.GET('/api/v1/roads/region')),
    refetchInterval: ({ state }) => (state.data?.last && isUnderWay(state.data.last) ? 2000 : false),
  });

/** Sites to which no road of the region leads. */
export const useOffTheMap = () =>
  useQuery({
    queryKey: [...regionKey, 'off the map'],
    queryFn: () => data(api.GET('/api/v1/sites/off-the-map')),
  });
