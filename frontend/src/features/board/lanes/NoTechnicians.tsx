import { Link } from '@tanstack/react-router';

/** A board that nobody stands on leads to where they are set up. */
export const NoTechnicians = () => (
  <p className="p-6 text-ink-soft">
    There are no technicians yet.{' '}
    <Link to="/set-up/first-steps" className="underline">
      First steps of the set-up
    </Link>
    .
  </p>
);
