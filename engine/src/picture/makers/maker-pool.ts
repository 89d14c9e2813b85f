import { expose, transfer, wrap, type Remote } from 'comlink';
import { startWorker, WorkerGaveUp, type EngineHandle } from '../../worker/handle';
import { Maker, type Makes } from './maker';
import type { Parcel } from './parcel';

/** Makers of a render at most: each holds pictures of its own. */
const MOST_MAKERS = 4;

/** As many makers as a render may keep busy on this device. */
export const makersForDevice = (cores = globalThis.navigator?.hardwareConcurrency ?? 1): number =>
  Math.min(MOST_MAKERS, Math.max(1, cores));

/** A maker, and how much it has to do. */
interface Seat {
  makes: Makes;
  busy: number;
  end(): void;
}

const framesOf = (parcels: readonly Parcel[]): VideoFrame[] => parcels.map(({ frame }) => frame);

/** The calls of a maker in a worker; they fail when the worker breaks down, which would answer nobody. */
function asked(remote: Remote<Makes>, broken: Promise<never>): Makes {
  const orBroken = <T>(answer: Promise<T>): Promise<T> => Promise.race([answer, broken]);
  const sent = <T>(value: T, ...parcels: Parcel[]): T => transfer(value, framesOf(parcels));
  return {
    add: (mean, parcel, counts) => orBroken(remote.add(mean, sent(parcel, parcel), counts)),
    mean: (mean, all) => orBroken(remote.mean(mean, all)),
    dropMean: (mean) => orBroken(remote.dropMean(mean)),
    find: (pair, first, second, name) => orBroken(remote.find(pair, sent(first, first), sent(second, second), name)),
    between: (pair, share) => orBroken(remote.between(pair, share)),
    movement: (pair, across) => orBroken(remote.movement(pair, across)),
    dropPair: (pair) => orBroken(remote.dropPair(pair)),
    same: (one, other) => orBroken(remote.same(sent(one, one), sent(other, other))),
    light: (parcel) => orBroken(remote.light(sent(parcel, parcel))),
    move: (parcel, map, mirror) => orBroken(remote.move(sent(parcel, parcel), map, mirror)),
    draw: (order, parcels) => orBroken(remote.draw(order, sent(parcels, ...parcels))),
  };
}

/** Answers a pool's calls through a port, in the worker that makes. */
export function serveMaker(port: MessagePort): void {
  const maker = new Maker();
  const sent = async <T extends Parcel>(parcel: Promise<T>): Promise<T> => {
    const made = await parcel;
    return transfer(made, [made.frame]);
  };
  const served: Makes = {
    add: (mean, parcel, counts) => maker.add(mean, parcel, counts),
    mean: async (mean, all) => {
      const made = await maker.mean(mean, all);
      return made && transfer(made, [made.frame]);
    },
    dropMean: (mean) => maker.dropMean(mean),
    find: (pair, first, second, name) => maker.find(pair, first, second, name),
    between: (pair, share) => sent(maker.between(pair, share)),
    movement: (pair, across) => maker.movement(pair, across),
    dropPair: (pair) => maker.dropPair(pair),
    same: (one, other) => maker.same(one, other),
    light: (parcel) => maker.light(parcel),
    move: (parcel, map, mirror) => sent(maker.move(parcel, map, mirror)),
    draw: (order, parcels) => sent(maker.draw(order, parcels)),
  };
  expose(served, port);
}

/** A worker that makes pictures, until it is ended or breaks down. */
function workerSeat(onBreakdown: () => void): Seat {
  const handle: EngineHandle = startWorker();
  const { port1, port2 } = new MessageChannel();
  void handle.api.serveMaker(transfer(port1, [port1]));
  const broken = new Promise<never>((_, reject) =>
    handle.onBreakdown(() => {
      reject(new WorkerGaveUp('Making pictures crashed.'));
      onBreakdown();
    }),
  );
  // Whoever asks hears of it; nobody may be asking.
  broken.catch(() => undefined);
  return { makes: asked(wrap<Makes>(port2), broken), busy: 0, end: () => handle.end() };
}

/** Breakdowns after which no more workers are started: something here does not let them live. */
const MOST_BREAKDOWNS = 3;

/**
 * Workers that make pictures, started when they are needed. What one that breaks down was to make is made in this thread
 * instead: it takes longer, and nothing is lost.
 */
export class MakerPool {
  private readonly seats: Seat[] = [];
  private readonly own = new Maker();
  private breakdowns = 0;
  private last = 0;

  /** @param width workers at most; with none, all is made in this thread */
  constructor(
    readonly width: number,
    private readonly start: (onBreakdown: () => void) => Seat = workerSeat,
  ) {}

  /** A number for a mean or a pair. */
  number(): number {
    return ++this.last;
  }

  /** Does something with the maker that has the least to do, and once more in this thread where that one breaks down. */
  async with<T>(task: (makes: Makes) => Promise<T>): Promise<T> {
    const seat = this.seat();
    if (!seat) return task(this.own);
    seat.busy++;
    try {
      return await task(seat.makes);
    } catch (error) {
      if (!(error instanceof WorkerGaveUp)) throw error;
      return await task(this.own);
    } finally {
      seat.busy--;
    }
  }

  private seat(): Seat | undefined {
    const { seats } = this;
    const least = seats.reduce<Seat | undefined>(
      (one, other) => (one && one.busy <= other.busy ? one : other),
      undefined,
    );
    if (least?.busy === 0) return least;
    const mayStart = seats.length < this.width && this.breakdowns < MOST_BREAKDOWNS && typeof Worker === 'function';
    if (!mayStart) return least;
    const seat = this.start(() => {
      this.breakdowns++;
      seats.splice(seats.indexOf(seat), 1);
      seat.end();
    });
    seats.push(seat);
    return seat;
  }

  /** Ends all workers; what they were making is not waited for. */
  close(): void {
    for (const seat of this.seats.splice(0)) seat.end();
  }
}
