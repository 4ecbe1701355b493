import { urlOf } from '@/api/client';
/** A technician's drawn portrait. Decorative: the name stands beside it. */
export function Portrait({ technicianId, size = 28 }: { technicianId: number; size?: number }) {
  return (
    <img
      src={urlOf('/api/v1/technicians/{technician_id}/portrait', { technician_id: technicianId })}
      alt=""
      width={size}
      height={size}
      loading="lazy"
      // Whoever has none is a plain square, not a broken picture.
      onError={(event) => event.currentTarget.removeAttribute('src')}
      className="shrink-0 rounded-sm bg-wash"
      style={{ width: size, height: size }}
    />
  );
}
