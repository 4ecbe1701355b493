/** One of several visits of an order that are tied: a stop, a step up, the next stop. */
export const SequenceSign = ({ size }: { size: number }) => (
  <svg
    width={size}
    height={size}
    viewBox="0 0 12 12"
    fill="none"
    stroke="currentColor"
    strokeWidth="1.5"
    aria-hidden
  >
    <circle cx="2.5" cy="9" r="1.75" fill="currentColor" stroke="none" />
    <path d="M2.5 9 H6 V3.5 H7.6" />
    <circle cx="9.3" cy="3.5" r="1.6" />
  </svg>
);
