// The ear: hands on every sample that the microphone gives, raw, in blocks; nothing is kept here.
class Ear extends AudioWorkletProcessor {
  constructor() {
    super();
    this.block = new Float32Array(4096);
    this.filled = 0;
  }
  process([input]) {
    const samples = input[0];
    if (samples) {
      for (const sample of samples) {
        this.block[this.filled++] = sample;
        if (this.filled === this.block.length) {
          this.port.postMessage(this.block.slice());
          this.filled = 0;
        }
      }
    }
    return true;
  }
}
registerProcessor("ear", Ear);
