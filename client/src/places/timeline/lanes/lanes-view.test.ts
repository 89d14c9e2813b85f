import type { Clip, ProjectDocument, Track } from '@hastig/contract';
import { apart, clipCount, itemsInSight, laneAt, lanesHeight, lanesOf, snapped, tracksInOrder } from './lanes-view';

const track = (id: string, kind: Track['kind']): Track => ({ id, name: id, kind, items: [] });
const container = {
  tracks: [track('p1', 'picture'), track('s1', 'sound'), track('p2', 'picture'), track('s2', 'sound')],
};

test('the uppermost picture lies on top, sound beneath all pictures', () => {
  expect(tracksInOrder(container)).toEqual([
    { track: container.tracks[2], index: 2 },
    { track: container.tracks[0], index: 0 },
    { track: container.tracks[1], index: 1 },
    { track: container.tracks[3], index: 3 },
  ]);
});

describe('lanes', () => {
  const least = lanesOf(container, false);

  test('lie beneath each other without touching', () => {
    least.slice(1).forEach((lane, i) => expect(lane.top).toBeGreaterThan(least[i]!.top + least[i]!.height));
  });

  test.each([0, 50, lanesHeight(least)])('take what they need where there is no more room (%i)', (room) => {
    expect(lanesOf(container, false, room)).toEqual(least);
  });

  test.each([1.1, 1.5, 1.7])('fill their room and never go beyond it (%d of what they need)', (share) => {
    const room = share * lanesHeight(least);
    const height = lanesHeight(lanesOf(container, false, room));
    expect(height).toBeLessThanOrEqual(room);
    // Each height is whole pixels, so up to one is left for each.
    expect(height).toBeGreaterThan(room - least.length);
  });

  test('do not grow beyond twice their least height', () => {
    lanesOf(container, false, 5000).forEach(({ height }, i) => expect(height).toBe(2 * least[i]!.height));
  });

  test('a height between two belongs to the nearer one', () => {
    const [first, second] = least;
    expect(laneAt(least, -50)).toBe(first);
    expect(laneAt(least, first!.top + first!.height + 1)).toBe(first);
    expect(laneAt(least, second!.top - 1)).toBe(second);
    expect(laneAt(least, 5000)).toBe(least.at(-1));
  });
});

test('snapping takes the nearest frame in reach', () => {
  const view = { from: 0, to: 100, width: 1000 };
  expect(snapped(50, [40, 52, 49], view, 12)).toBe(49);
  expect(snapped(50, [40, 52], view, 12)).toBeUndefined();
  expect(snapped(50, [40, 52], view, 20)).toBe(52);
});

describe('what is in sight of a track', () => {
  const clip = (id: string): Clip => ({ id, shown: { from: 0, frames: 10 } }) as Clip;
  const clips = Array.from({ length: 5000 }, (_, n) => clip(`c${n}`));
  const long: Track = { ...track('long', 'picture'), items: clips.map(({ id }) => ({ clip: id })) };
  const project = {
    ...{ clips, sources: [], groups: [] },
    sequence: { tracks: [long], markers: [] },
  } as unknown as ProjectDocument;

  test('is only that, with the number of each clip', () => {
    const items = itemsInSight(project, long, { from: 25, to: 60, width: 350 });
    expect(items.map(({ number, x, width }) => [number, x, width])).toEqual([
      [3, -50, 100],
      [4, 50, 100],
      [5, 150, 100],
      [6, 250, 100],
    ]);
    expect(clipCount(project, long)).toBe(5000);
  });

  test('stands as a few crowds where it is too narrow to be told apart, but for what is chosen', () => {
    const items = itemsInSight(project, long, { from: 0, to: 50_000, width: 390 });
    const { single, crowds } = apart(items, new Set(['c7']));
    expect(single.map(({ clip: one }) => one?.id)).toEqual(['c7']);
    expect(crowds.length).toBeLessThan(20);
    expect(crowds.reduce((sum, { clips: count }) => sum + count, 0)).toBe(4999);
  });
});
