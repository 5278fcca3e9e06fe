/** Hands on what the microphone hears, block by block. It runs beside the page, where nothing may be imported. */
class Listener extends AudioWorkletProcessor {
  process([input]) {
    const heard = input?.[0]
    if (heard) this.port.postMessage(heard.slice())
    return true
  }
}

registerProcessor('listener', Listener)
