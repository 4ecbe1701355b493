import { urlOf } from '@/api/client';

/** A technician's photo, drawing or initials. Decorative: the name stands beside it. */
export function Portrait({ technicianId, size = 28 }: { technicianId: number; size?: number }) {
  return (
    <img
      src={urlOf('/api/v1/technicians/{technician_id}/portrait', { technician_id: technicianId })}
      alt=""
      width={size}
      height={size}
      loading="lazy"
      className="shrink-0 rounded-sm bg-wash"
      style={{ width: size, height: size }}
    />
  );
}
