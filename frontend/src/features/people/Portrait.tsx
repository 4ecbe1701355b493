/** A technician's drawn portrait. Decorative: the name stands beside it. */
export function Portrait({ technicianId, size = 28 }: { technicianId: number; size?: number }) {
  return (
    <img
      src={`/api/people/technicians/${technicianId}/portrait`}
      alt=""
      width={size}
      height={size}
      loading="lazy"
      className="shrink-0 rounded-sm bg-wash"
      style={{ width: size, height: size }}
    />
  );
}
