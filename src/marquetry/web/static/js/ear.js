// The ear: hands on every sample that the microphone gives, raw, in blocks; nothing is kept here.
// A quantum of nothing but noughts amid sound is none of a microphone's: the computer was too busy, and filled
// in silence. Every beat after it comes late, so that ten milliseconds make half a minute a day of rate.
class Ear extends AudioWorkletProcessor {
  constructor() {
    super();
    this.block = new Float32Array(4096);
    this.filled = 0;
    this.sounding = false;
  }
  process([input]) {
    const samples = input[0];
    if (!samples) return true;
    const silent = samples.every((sample) => sample === 0);
    if (silent && this.sounding) {
      this.port.postMessage({ torn: true });
      this.filled = 0;
    }
    this.sounding = !silent;
    this.take(samples);
    return true;
  }
  take(samples) {
    for (const sample of samples) {
      this.block[this.filled++] = sample;
      if (this.filled === this.block.length) {
        this.port.postMessage({ block: this.block.slice() });
        this.filled = 0;
      }
    }
  }
}
registerProcessor("ear", Ear);
