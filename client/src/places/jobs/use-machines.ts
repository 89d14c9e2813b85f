import type { Machine } from '@hastig/contract';
import { useCallback, useEffect, useState } from 'react';
import { api } from '../../store/api';

/** Milliseconds between two looks. */
const EVERY = 5000;

interface SeenMachines {
  /** Undefined until they are known. */
  machines: readonly Machine[] | undefined;
  /** When they were looked at, in milliseconds since 1970. */
  at: number;
}

/** Machines that help, looked at anew now and then. */
export function useMachines(): SeenMachines & { refresh(): void } {
  const [seen, setSeen] = useState<SeenMachines>({ machines: undefined, at: 0 });
  const refresh = useCallback(
    () =>
      void api.listMachines().then(
        (machines) => setSeen({ machines, at: Date.now() }),
        () => undefined,
      ),
    [],
  );
  useEffect(() => {
    refresh();
    const timer = setInterval(refresh, EVERY);
    return () => clearInterval(timer);
  }, [refresh]);
  return { ...seen, refresh };
}
