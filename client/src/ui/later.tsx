import { startTransition, useEffect, useState, type ReactNode } from 'react';

/**
 * Its children, put together after what surrounds them has been drawn: in short steps between which the page
 * answers, as long as they take.
 */
export function Later({ children }: { children: ReactNode }) {
  const [begun, setBegun] = useState(false);
  useEffect(() => startTransition(() => setBegun(true)), []);
  return begun ? children : null;
}
