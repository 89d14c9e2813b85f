import { PROJECT_VERSION, type ProjectDocument } from './schema/project';
import { checkProjectDocument, type Checked } from './validate';

type Json = Record<string, unknown>;

/**
 * One step each, from the version of its index + 1 to the next. A step gets a valid document of its own
 * version and returns one of the next; it never changes what it was given.
 */
const steps: readonly ((document: Json) => Json)[] = [
  fromVersion1,
  fromVersion2,
  fromVersion3,
  fromVersion4,
  fromVersion5,
  fromVersion6,
  fromVersion7,
  fromVersion8,
];

interface Version1 {
  sequence: Json;
  sources: { facts: { video: { width: number; height: number } } }[];
  clips: { id: string; sourceId: string; timing: { spans: { frames: number }[] } }[];
}

// Version 1 had clips side by side and no timeline: they are laid one after the other, in the order they came.
function fromVersion1(document: Json): Json {
  const { sequence, sources, clips } = document as unknown as Version1;
  const video = sources[0]?.facts.video;
  const even = (pixels: number): number => Math.min(16_384, Math.max(16, pixels + (pixels % 2)));
  return {
    ...document,
    version: 2,
    defaults: { length: 'ripple', arrivals: 'lay' },
    sequence: {
      ...sequence,
      width: even(video?.width ?? 1280),
      height: even(video?.height ?? 720),
      sampleRate: 48_000,
      startFrame: 0,
      tracks: [{ id: 'picture-1', kind: 'picture', name: 'Picture', items: clips.map(({ id }) => ({ clip: id })) }],
      markers: [],
    },
    groups: [],
    clips: clips.map(({ sourceId, ...clip }) => ({
      ...clip,
      of: { kind: 'source', id: sourceId },
      shown: { from: 0, frames: wholeFrames(clip.timing.spans) },
      length: 'ripple',
    })),
  };
}

// Version 2 knew only sources with a moving picture, which stay as they are.
function fromVersion2(document: Json): Json {
  return { ...document, version: 3 };
}

// Version 3 knew markers only at whole positions and by their tone.
function fromVersion3(document: Json): Json {
  return { ...document, version: 4 };
}

// Version 4 knew no settings of sound.
function fromVersion4(document: Json): Json {
  return { ...document, version: 5 };
}

// Version 5 knew no frames laid to the nearest position, no colours of sources, and no parts of fades.
function fromVersion5(document: Json): Json {
  return { ...document, version: 6 };
}

// Version 6 knew only pictures of an instant, as those without settings are.
function fromVersion6(document: Json): Json {
  return { ...document, version: 7 };
}

// Version 7 knew no effects.
function fromVersion7(document: Json): Json {
  return { ...document, version: 8 };
}

// Version 8 knew no versions of clips, groups and the film.
function fromVersion8(document: Json): Json {
  return { ...document, version: 9 };
}

// As `frameCount` of the core counts them.
const wholeFrames = (spans: readonly { frames: number }[]): number =>
  Math.max(1, Math.ceil(spans.reduce((sum, { frames }) => sum + frames, 0) - 1e-6));

/**
 * Brings a document of any known version to the current one and checks it.
 *
 * @param raw a parsed project document
 * @returns the current document, or field errors: an unknown or newer version is an error of `/version`
 */
export function migrateProject(raw: unknown): Checked<ProjectDocument> {
  const version = (raw as Json | null)?.version;
  if (typeof version === 'number' && version > PROJECT_VERSION) {
    const reason = `is ${version}, from a newer version of Hastig; this one reads up to ${PROJECT_VERSION}`;
    return { ok: false, errors: [{ pointer: '/version', reason }] };
  }
  let document = raw as Json;
  if (typeof version === 'number' && Number.isInteger(version) && version >= 1) {
    try {
      for (const step of steps.slice(version - 1)) document = step(document);
    } catch {
      // A document that is none of its own version has no way forward; what is wrong with it is told by the check.
    }
  }
  return checkProjectDocument(document);
}
