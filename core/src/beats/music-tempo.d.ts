declare module 'music-tempo/dist/node/BeatTracking.js' {
  interface Agent {
    score: number;
    beatInterval: number;
    /** Seconds of the beats that fell on onsets; of all of them after `fillBeats`. */
    events: number[];
    fillBeats(): void;
  }
  const BeatTracking: {
    trackBeat(events: number[], scores: number[], periods: number[], params?: { initPeriod?: number }): Agent[];
  };
  export default BeatTracking;
}

declare module 'music-tempo/dist/node/TempoInduction.js' {
  type Clusters = object;
  const TempoInduction: {
    processRhythmicEvents(events: number[]): Clusters;
    mergeClusters(clusters: Clusters): Clusters;
    calculateScore(clusters: Clusters): object;
    createTempoList(clusters: object): number[];
  };
  export default TempoInduction;
}

declare module 'music-tempo' {
  export default class MusicTempo {
    /** @param audio samples of one channel, taken to be 44100 a second; throws a text where nothing is found */
    constructor(audio: Float32Array);
    readonly beats: number[];
    readonly tempo: number;
  }
}
