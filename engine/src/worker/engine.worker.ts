import { updatedProgram, type Program } from '@hastig/core';
import { expose, transfer } from 'comlink';
import { undecodable } from '../media/open';
import { readSamples } from '../media/samples';
import { PictureBudget } from '../media/picture-budget';
import { fileFrames, openSource } from '../media/source';
import { serveMaker } from '../picture/makers/maker-pool';
import { Gate } from '../render/told';
import { askSound, serveSound } from '../render/sound-side';
import { StageSound } from '../stage/stage-sound';
import { StageWorker } from '../stage/stage-worker';
import { Thumbnailer } from '../thumbs/thumbnailer';
import type { EngineApi } from './api';

// What is asked for now and then is loaded when it is: a page starts several workers, and each would read all of it first.
const stage = new StageWorker();
const stageSound = new StageSound();
let seen: Program | undefined;
let heard: Program | undefined;
let thumbnailer: Thumbnailer | undefined;
let rendering: AbortController | undefined;
const gate = new Gate();
let deriving: AbortController | undefined;

const api: EngineApi = {
  started: () => undefined,
  stageAttach: (canvas, events) => stage.attach(canvas, events),
  stageSetProgram: (update, sources) => stage.setProgram((seen = updatedProgram(seen, update)), sources),
  stageResize: (width, height) => stage.resize(width, height),
  stageShow: (frame) => stage.show(frame),
  stageLook: (look) => stage.setLook(look),
  stagePreroll: (frame) => stage.preroll(frame),
  stagePlay: (clock, loop) => stage.play(clock, loop),
  stageAdjust: (clock) => stage.adjust(clock),
  stageStop: () => stage.stop(),
  soundSetProgram: (update, sources) => stageSound.setProgram((heard = updatedProgram(heard, update)), sources),
  soundPrepare: (seconds, rate) => stageSound.prepare(seconds, rate),
  soundRead: async (first, count, rate) => {
    const samples = await stageSound.read(first, count, rate);
    return (
      samples &&
      transfer(
        samples,
        samples.map((channel) => channel.buffer),
      )
    );
  },
  inspect: async (location) => {
    const source = await openSource(location, new PictureBudget(0));
    try {
      // A browser may promise a codec and then fail at this very file.
      if (source.size) (await source.frames.get(0)).close();
      else await source.sound?.check();
      return source.facts;
    } catch {
      throw undecodable(source.facts);
    } finally {
      await source.close();
    }
  },
  fileFrames: async (location) => {
    const frames = await fileFrames(location);
    return frames && transfer(frames, [frames.buffer]);
  },
  poster: async (location, frame, height) => {
    const source = await openSource(location, new PictureBudget(0));
    try {
      if (!source.size) throw new Error('There is no picture, only sound.');
      const { width, height: full } = source.size;
      const canvas = new OffscreenCanvas(Math.max(1, Math.round((width * height) / full)), height);
      const sample = await source.frames.get(Math.min(frame, source.frames.frames - 1));
      sample.draw(canvas.getContext('2d')!, 0, 0, canvas.width, canvas.height);
      sample.close();
      return await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 });
    } finally {
      await source.close();
    }
  },
  thumbsOpen: (height, made) => {
    thumbnailer = new Thumbnailer(height, (sourceId, frame, picture) =>
      made(sourceId, frame, transfer(picture, [picture])),
    );
  },
  thumbsLocate: (sources) => void thumbnailer?.locate(sources),
  thumbsWant: (wanted) => thumbnailer?.want(wanted),
  thumbsWhilePlaying: (playing) => thumbnailer?.whilePlaying(playing),
  render: async (job, onProgress, sound) => {
    rendering = new AbortController();
    const { signal } = rendering;
    const { render } = await import('../render/render');
    return render(job, { onProgress, signal, gate, ...(sound && { sound: askSound(sound) }) });
  },
  estimateRender: async (job) => (await import('../render/estimate')).estimateRender(job),
  encodable: async (question) => (await import('../render/encodable')).findEncodable(question),
  serveSound,
  serveMaker,
  cancelRender: () => rendering?.abort(),
  pauseRender: (paused) => gate.pause(paused),
  derive: async (job, onProgress) => {
    deriving = new AbortController();
    const { signal } = deriving;
    return (await import('../derive/derive')).derive(job, onProgress, signal);
  },
  cancelDerive: () => deriving?.abort(),
  analyseBeats: async (...asked) => (await import('../beats/analyse')).analyseBeatsAt(...asked),
  envelope: async (question) => {
    const { readEnvelopeAt } = await import('../beats/analyse');
    const envelope = await readEnvelopeAt(question);
    const rows = [...Object.values(envelope.bands), ...Object.values(envelope.levels)];
    return transfer(
      envelope,
      rows.map(({ buffer }) => buffer as ArrayBuffer),
    );
  },
  trackBack: async (...asked) => (await import('../track/track')).trackBack(...asked),
  trackWith: async (...asked) => (await import('../track/track')).trackWith(...asked),
  camera: async (...asked) => (await import('../camera/camera')).findCamera(...asked),
  loudness: async (...asked) => (await import('../loudness/measure')).measureLoudness(...asked),
  steps: async (...asked) => (await import('../evenness/measure')).measureSteps(...asked),
  findSync: async (...asked) => (await import('../sync/find')).findSync(...asked),
  makeEffect: async (wanted) => {
    const { makeEffectFile } = await import('../sound-effects/make-file');
    const file = makeEffectFile(wanted);
    return transfer(file, [file.bytes.buffer]);
  },
  findMoments: async (question) => (await import('../moments/find')).findMoments(question),
  samples: async (location, first, count) => {
    const samples = await readSamples(location, first, count);
    return transfer(samples, [samples.buffer]);
  },
};

expose(api);
