/** Hands on what the microphone hears, piece by piece, as it is. */
class Recorder extends AudioWorkletProcessor {
  process([[heard]]) {
    if (heard) this.port.postMessage(heard.slice());
    return true;
  }
}
registerProcessor("recorder", Recorder);
