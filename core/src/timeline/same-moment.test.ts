import { atSpeed, rowOf } from '../../test/projects';
import { duplicateClips, groupClips, sameMoment, SEQUENCE, trimClip } from '..';

const film = { container: SEQUENCE };

describe('on a clip and on what it lies in', () => {
  // c0 lies at 0…29, c1 at 30…89; five frames of c1 are.
  const project = trimClip(rowOf(30, 65), 'c1', 'start', 5, 'close');

  it('counts from the clip’s place, hidden frames too', () => {
    expect(sameMoment(project, film, { clip: 'c1' }, 40)).toBe(15);
    expect(sameMoment(project, { clip: 'c1' }, film, 15)).toBe(40);
  });

  it('goes to the nearest frame that is shown', () => {
    expect(sameMoment(project, film, { clip: 'c1' }, 3)).toBe(5);
    expect(sameMoment(project, { clip: 'c1' }, film, 2)).toBe(30);
  });
});

describe('on a clip and on its source', () => {
  const project = atSpeed(rowOf(60), 'c0', 0.5);

  it('finds the frame that is held, and where a frame is first shown', () => {
    expect(sameMoment(project, { clip: 'c0' }, { source: 's0' }, 41)).toBe(20);
    expect(sameMoment(project, { source: 's0' }, { clip: 'c0' }, 20)).toBe(40);
  });

  it('takes the nearest one where a frame is passed over', () => {
    const fast = atSpeed(rowOf(60), 'c0', 4);
    expect(sameMoment(fast, { source: 's0' }, { clip: 'c0' }, 21)).toBe(5);
  });

  it('does not lead from a source to a timeline', () => {
    expect(sameMoment(project, { source: 's0' }, film, 20)).toBeUndefined();
    expect(sameMoment(project, film, { source: 's0' }, 20)).toBeUndefined();
  });
});

describe('on a group’s inside and on what it lies in', () => {
  const grouped = groupClips(rowOf(30, 30, 30), ['c1', 'c2'], { groupId: 'g', clipId: 'cg', name: 'G' });
  const slow = atSpeed(grouped, 'cg', 0.5);
  const inside = { container: 'g' };

  it('goes through the timing of the group', () => {
    expect(sameMoment(slow, film, inside, 50)).toBe(10);
    expect(sameMoment(slow, inside, film, 10)).toBe(50);
    expect(sameMoment(slow, { clip: 'cg' }, inside, 20)).toBe(10);
    expect(sameMoment(slow, inside, { clip: 'cg' }, 10)).toBe(20);
  });

  it('takes the preferred one of several uses, else the first', () => {
    const twice = duplicateClips(grouped, ['cg'], ['second']);
    expect(sameMoment(twice, inside, film, 10)).toBe(40);
    expect(sameMoment(twice, inside, film, 10, ['second'])).toBe(100);
    expect(sameMoment(twice, film, inside, 100, ['second'])).toBe(10);
  });
});

it('stays where it is on the same, and knows nothing of what has nothing to do with it', () => {
  const project = rowOf(30, 30);
  expect(sameMoment(project, film, film, 12)).toBe(12);
  expect(sameMoment(project, { clip: 'c0' }, { clip: 'c1' }, 12)).toBeUndefined();
  expect(sameMoment(project, { clip: 'gone' }, film, 12)).toBeUndefined();
});
