// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./signalsmith.d.ts" />
/** The functions of the compiled library, as they are called here; all sizes in samples. */
export interface StretchModule {
  HEAP8: Int8Array;
  /** Room for `length` samples of each channel in and out, one after the other; its address. */
  _setBuffers(channels: number, length: number): number;
  _configure(channels: number, block: number, interval: number, split: boolean): void;
  _reset(): void;
  _inputLatency(): number;
  _outputLatency(): number;
  /** Takes what lies in the buffers as all that was heard up to now. */
  _seek(samples: number, rate: number): void;
  _process(input: number, output: number): void;
  _setFormantSemitones(semitones: number, compensated: boolean): void;
  _setFormantBase(share: number): void;
}

interface Processor {
  wasmReady: boolean;
  wasmModule: StretchModule;
}

type ProcessorClass = new (options: object) => Processor;

let found: Promise<ProcessorClass> | undefined;

/**
 * The package offers only a node for an audio graph. Loaded where there seems to be a graph, it hands over the class of that
 * node's processor, which makes the compiled module.
 */
function processorClass(): Promise<ProcessorClass> {
  found ??= (async () => {
    const scope = globalThis as unknown as Record<string, unknown>;
    const names = ['AudioWorkletProcessor', 'registerProcessor', 'sampleRate'] as const;
    const before = names.map((name) => [name, scope[name]] as const);
    let registered: ProcessorClass | undefined;
    scope.AudioWorkletProcessor = class {
      port = { postMessage: () => undefined };
    };
    scope.registerProcessor = (_name: string, processor: ProcessorClass) => (registered = processor);
    await import('signalsmith-stretch');
    // Asked for by the class when it is made; what is told there is set anew for each use.
    scope.sampleRate = 48_000;
    for (const [name, value] of before.slice(0, 2)) scope[name] = value;
    if (!registered) throw new Error('The stretcher could not be loaded.');
    return registered;
  })();
  return found;
}

/** A module of its own, with its own memory. */
export async function stretchModule(): Promise<StretchModule> {
  const made = new (await processorClass())({ numberOfOutputs: 1, outputChannelCount: [1] });
  while (!made.wasmReady) await new Promise((done) => setTimeout(done, 1));
  return made.wasmModule;
}
