import type { Marker } from '@hastig/contract';
import { frameToX, type TimeView } from './use-time-view';

/** A marker on the ruler, with how many others are too close to it to be told apart, and where the last of them stands. */
interface SeenMarker {
  marker: Marker;
  others: number;
  x: number;
  to: number;
}

/** Pixels from one sign to the next at least. */
const APART = 10;

const sorted = new WeakMap<readonly Marker[], readonly Marker[]>();

function inOrder(markers: readonly Marker[]): readonly Marker[] {
  let order = sorted.get(markers);
  if (!order) {
    order = markers.every(({ at }, index) => index === 0 || markers[index - 1]!.at <= at)
      ? markers
      : markers.toSorted((a, b) => a.at - b.at);
    sorted.set(markers, order);
  }
  return order;
}

/**
 * The markers in sight: no more of them than there is room for signs, however many there are.
 *
 * @param apart pixels from one sign to the next at least
 */
export function markersInSight(markers: readonly Marker[], view: TimeView, apart = APART): SeenMarker[] {
  const order = inOrder(markers);
  let [low, high] = [0, order.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (order[middle]!.at >= view.from) high = middle;
    else low = middle + 1;
  }
  const seen: SeenMarker[] = [];
  for (let index = low; index < order.length && order[index]!.at <= view.to; index++) {
    const marker = order[index]!;
    const x = frameToX(view, marker.at);
    const last = seen.at(-1);
    // Two at the same frame are never told apart by looking closer: each has a sign, one over the other.
    if (last && x - last.x < apart && marker.at !== last.marker.at)
      Object.assign(last, { others: last.others + 1, to: marker.at });
    else if (last && x - last.x < apart && last.others > 0) last.others++;
    else seen.push({ marker, others: 0, x, to: marker.at });
  }
  return seen;
}
