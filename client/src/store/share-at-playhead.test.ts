import { paceClip, SEQUENCE, type StageTarget } from '@hastig/core';
import { storedProject } from '../../test/project';
import { shareAtPlayhead } from './share-at-playhead';

it('a file is made first where the playhead is: in its source, a clip of it, or on the timeline', () => {
  // 150 frames in twice their time.
  const document = paceClip(storedProject().document, 'clip', 300);
  const [own, other] = ['a'.repeat(64), 'b'.repeat(64)];
  const percent = (target: StageTarget | null, playhead: number, sha256 = own): number =>
    Math.round(100 * shareAtPlayhead({ project: { document }, session: { target, playhead } }, sha256));
  expect(percent({ source: 'source' }, 75)).toBe(50);
  expect(percent({ clip: 'clip' }, 75)).toBe(25);
  expect(percent({ container: SEQUENCE }, 240)).toBe(80);
  expect(percent({ container: SEQUENCE }, 900)).toBe(0);
  expect(percent({ source: 'source' }, 75, other)).toBe(0);
  expect(percent({ clip: 'clip' }, 75, other)).toBe(0);
  expect(percent(null, 75)).toBe(0);
});
