import type { MediaFacts, ProjectDocument } from '@hastig/contract';
import {
  addSource,
  duplicateClips,
  eases,
  groupClips,
  joinAcross,
  makeRate,
  moveClips,
  newProject,
  paceClip,
  picturePlan,
  programOf,
  removeClips,
  SEQUENCE,
  setMarkers,
  soundRuns,
  splitClip,
  trimClip,
} from '@hastig/core';
import { line } from './line';
import { quickest } from './quickest';

const CLIPS = 40;
const GROUPS = 12;
const MARKERS = 200;

const facts: MediaFacts = {
  container: 'MP4',
  mime: 'video/mp4',
  bytes: 1,
  video: {
    ...{ codec: 'avc', codecString: '', width: 1280, height: 720, rotation: 0, rate: makeRate(30) },
    ...{ frames: 300, constantRate: true, longestGroup: 30, seconds: 10 },
  },
  audio: null,
};

/** A film of so many clips, groups and markers. */
function film(): ProjectDocument {
  let project = newProject('Film');
  for (let n = 0; n < CLIPS; n++) {
    project = addSource(
      project,
      { id: `s${n}`, name: `${n}.mp4`, sha256: String(n).padStart(64, '0'), facts },
      `c${n}`,
    );
  }
  for (let n = 0; n < GROUPS; n++) {
    project = groupClips(project, [`c${n * 3}`, `c${n * 3 + 1}`], { groupId: `g${n}`, clipId: `cg${n}`, name: `${n}` });
  }
  const markers = Array.from({ length: MARKERS }, (_, n) => ({
    id: `m${n}`,
    at: n * 50,
    name: '',
    tone: 'oak' as const,
  }));
  return setMarkers(project, SEQUENCE, markers);
}

/** Edits of a whole film in the core, each with the plan of its pictures made anew. */
export function benchTimeline(): void {
  const project = film();
  const edits: Record<string, () => ProjectDocument> = {
    'split a clip': () => splitClip(project, 'c38', 11_500, 'new'),
    'trim a clip': () => trimClip(project, 'c20', 'end', -40, 'close'),
    'move a clip': () => moveClips(project, ['c38'], 'picture-1', 3000, 'close'),
    'pace a clip in a group': () => paceClip(project, 'c4', 450),
    'group three clips': () => groupClips(project, ['c38', 'c39', 'c37'], { groupId: 'n', clipId: 'cn', name: 'n' }),
    'duplicate a group': () => duplicateClips(project, ['cg3'], ['new']),
    'remove a clip': () => removeClips(project, ['c20'], 'close'),
    'join across a cut': () =>
      joinAcross(project, 'c38', 'c39', {
        ...{ before: 40, after: 40, speed: 4, keeps: 'content' as const },
        ...{ easeIn: eases['ease-in'], easeOut: eases['ease-out'] },
      }),
    'add a marker': () => setMarkers(project, SEQUENCE, [{ id: 'm', at: 7, name: '', tone: 'oak' }]),
  };
  for (const [name, edit] of Object.entries(edits)) {
    const took = quickest(() => {
      const program = programOf(edit(), SEQUENCE);
      if (picturePlan(program).at(100).length === 0) throw new Error('the plan went wrong');
    });
    line(`${name}: ${CLIPS} clips, ${GROUPS} groups, ${MARKERS} markers`, `${took.toFixed(2)} ms, its plan made anew`);
  }
  line(
    'the sound of that film, as runs',
    `${quickest(() => void soundRuns({ ...programOf(film(), SEQUENCE) })).toFixed(2)} ms, its film made anew`,
  );
}
