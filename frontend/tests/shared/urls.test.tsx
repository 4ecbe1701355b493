import { describe, expect, it } from 'vitest';
import { urlOf } from '@/api/client';
import { layerUrl } from '@/features/roads/style';

describe('an address', () => {
  it('has its names filled in, as they may stand in an address', () => {
    expect(urlOf('/api/v1/files/{file_id}', { file_id: 7 })).toBe('/api/v1/files/7');
    expect(urlOf('/api/v1/company/tags/{code}', { code: 'key account/old' })).toBe(
      '/api/v1/company/tags/key%20account%2Fold',
    );
  });

  it('says what is asked behind the question mark, if anything', () => {
    expect(urlOf('/api/v1/board/route-sheet', {}, { day: '2026-11-25', technician_id: 3 })).toBe(
      '/api/v1/board/route-sheet?day=2026-11-25&technician_id=3',
    );
  });

  it('of a layer of the map is whole, and one that the server has', () => {
    expect(layerUrl('land')).toBe(`${window.location.origin}/api/v1/roads/map/land`);
  });
});
