import type { Lock, Locker, RequestRelease } from '@tus/server';
import { E_CANCELED, E_TIMEOUT, Mutex, withTimeout } from 'async-mutex';
import { HttpProblem } from '../http/problem';

/** Waiting for one's turn is no fault of the server's: the client tries again. */
const LOCKED = 423;
/** Milliseconds for which a request waits for another at the same upload. */
const PATIENCE = 30_000;

interface Turn {
  mutex: Mutex;
  /** How many hold it or wait for it. */
  wanted: number;
  /** Asks whoever holds it to let go. */
  ask: RequestRelease | undefined;
}

/**
 * One request at a time for each upload, in turn; whoever holds it is asked to let go as soon as another comes. Waiting costs
 * nothing.
 */
export class UploadLocks implements Locker {
  private readonly turns = new Map<string, Turn>();

  newLock(id: string): Lock {
    let release: (() => void) | undefined;
    return {
      lock: async (signal, ask) => {
        const turn = this.turns.get(id) ?? { mutex: new Mutex(), wanted: 0, ask: undefined };
        this.turns.set(id, turn);
        turn.wanted++;
        try {
          if (turn.mutex.isLocked()) await turn.ask?.();
          release = await withTimeout(turn.mutex, PATIENCE).acquire();
          if (signal.aborted) release();
          signal.throwIfAborted();
          turn.ask = ask;
          // Others came while this one waited: they asked whoever held it then.
          if (turn.wanted > 1) void ask();
        } catch (error) {
          this.leave(id, turn);
          if (error === E_TIMEOUT || error === E_CANCELED || signal.aborted)
            throw new HttpProblem(LOCKED, 'This upload is already running elsewhere.');
          throw error;
        }
      },
      unlock: async () => {
        const turn = this.turns.get(id);
        if (!turn || !release) return;
        turn.ask = undefined;
        release();
        release = undefined;
        this.leave(id, turn);
      },
    };
  }

  private leave(id: string, turn: Turn): void {
    turn.wanted--;
    if (turn.wanted === 0) this.turns.delete(id);
  }
}
