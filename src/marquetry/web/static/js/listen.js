// Listens to a watch: samples from the microphone or the stand-in grow into a recording, which the server hears.
// What is measured is the server's; here are samples, a level, and whose turn it is.
const Listen = {
  form: null,
  run: null, // one recording: its blocks, their count, the rate, how to end it

  begin() {
    const form = (Listen.form = document.getElementById("listen"));
    if (!form) return;
    Listen.go = form.querySelector("[data-listen]");
    Listen.halt = form.querySelector("[data-stop]");
    Listen.meter = form.querySelector("meter");
    Listen.words = form.querySelector(".listen-told span");
    Listen.go.addEventListener("click", () => Listen.start());
    Listen.halt.addEventListener("click", () => Listen.stop("Stopped. Nothing was kept."));
    form.elements.source.addEventListener("change", Listen.choose);
    form.addEventListener("submit", (event) => Listen.file(event));
    Listen.choose();
  },
  choose() {
    const byFile = Listen.form.elements.source.value === "file";
    Listen.form.classList.toggle("listen-by-file", byFile);
    Listen.form.elements.sound.disabled = !byFile;
    Listen.go.hidden = byFile;
  },
  tell(words) {
    Listen.words.textContent = words;
  },
  async start() {
    if (Listen.run) return;
    const form = Listen.form.elements;
    const run = (Listen.run = { blocks: [], count: 0, rate: 0, heard: 0, torn: 0, asking: false, end: () => {}, source: form.source.value });
    Listen.go.hidden = true;
    Listen.halt.hidden = Listen.meter.hidden = false;
    Listen.tell("Listening …");
    try {
      if (run.source === "microphone") await Listen.microphone(run);
      else await Listen.standIn(run);
    } catch (fault) {
      Listen.stop(Listen.refused(fault));
    }
  },
  refused(fault) {
    if (!navigator.mediaDevices) return "Browsers give the microphone only to this machine itself or over https. Use a file, or open this page there.";
    if (fault.name === "NotAllowedError") return "The microphone was refused. Allow it beside the address of this page, or use a file. Nothing was kept.";
    if (fault.name === "NotFoundError") return "There is no microphone. Plug one in, or use a file. Nothing was kept.";
    return "The microphone does not answer. Is another program using it? Nothing was kept.";
  },
  // Raw samples: everything a browser does for voices is switched off, for it takes beats for noise.
  async microphone(run) {
    if (!navigator.mediaDevices) throw new Error("no microphone here");
    const audio = { echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: 1 };
    const stream = await navigator.mediaDevices.getUserMedia({ audio });
    const context = new AudioContext();
    run.end = () => {
      for (const track of stream.getTracks()) track.stop();
      context.close();
    };
    if (Listen.run !== run) return run.end();
    await context.audioWorklet.addModule(Listen.form.dataset.worklet);
    const ear = new AudioWorkletNode(context, "ear", { numberOfOutputs: 0, channelCount: 1 });
    run.rate = context.sampleRate;
    ear.port.onmessage = (event) => (event.data.torn ? Listen.torn(run) : Listen.take(run, event.data.block));
    context.createMediaStreamSource(stream).connect(ear);
    await context.resume();
    return undefined;
  },
  // The simulated watch goes the same way, in the same blocks, only faster than time.
  async standIn(run) {
    const seconds = Listen.form.elements.seconds.value;
    const at = Listen.position();
    const rate = (at.length * 7) % 13; // each position a little different, as a watch is
    const answer = await fetch(`${Listen.form.dataset.standIn}?seconds=${seconds}&rate=${rate}`);
    const context = new OfflineAudioContext(1, 1, 44100);
    const samples = (await context.decodeAudioData(await answer.arrayBuffer())).getChannelData(0);
    run.rate = 44100;
    let from = 0;
    const timer = setInterval(() => {
      Listen.take(run, samples.slice(from, from + 22050));
      from += 22050;
      if (from >= samples.length) clearInterval(timer);
    }, 100);
    run.end = () => clearInterval(timer);
  },
  position() {
    return document.querySelector("input[name=position]:checked")?.value ?? "dial_up";
  },
  take(run, block) {
    if (Listen.run !== run) return;
    run.blocks.push(block);
    run.count += block.length;
    Listen.meter.value = Math.sqrt(Math.max(...block.map(Math.abs)));
    const seconds = run.count / run.rate;
    const whole = Number(Listen.form.elements.seconds.value);
    Listen.tell(`${Math.min(seconds, whole).toFixed(0)} of ${whole} s`);
    if (seconds >= whole) Listen.done(run);
    else if (!run.asking && seconds - run.heard >= Number(Listen.form.dataset.first)) Listen.hear(run, seconds);
  },
  // Sound with a piece missing gives a wrong rate and looks sound: it is begun again, as long as that is any use.
  torn(run) {
    if (Listen.run !== run) return;
    Object.assign(run, { blocks: [], count: 0, heard: 0, torn: run.torn + 1 });
    if (run.torn <= Number(Listen.form.dataset.mostTorn)) return Listen.tell("The computer was too busy for a moment: begun again.");
    return Listen.stop("The sound comes in pieces. Close other programs, or switch off what silences the microphone between beats, or use a file. Nothing was kept.");
  },
  // First figures while it goes on; nothing is kept of them.
  async hear(run, seconds) {
    run.asking = true;
    run.heard = seconds;
    const answer = await Listen.send(Listen.form.dataset.hear, run).catch(() => null);
    if (Listen.run === run && answer) Listen.put("heard", answer.text);
    run.asking = false;
  },
  async done(run) {
    Listen.run = null;
    run.end();
    Listen.tell("Analysing …");
    const answer = await Listen.send(Listen.form.action, run).catch(() => null);
    if (!answer) return Listen.stop("The program does not answer. Nothing was kept.");
    Listen.put(answer.ok ? "round" : "heard", answer.text);
    const next = document.querySelector(".position:not(:has(.figure)) input");
    if (answer.ok && next && Listen.form.elements.round.checked) return Listen.turn(Number(Listen.form.dataset.pause));
    return Listen.stop(answer.ok ? "Kept." : "Nothing was kept.");
  },
  // A short pause to turn the watch; Escape leaves the round.
  turn(seconds) {
    const name = document.querySelector(".position:has(:checked) b")?.textContent ?? "";
    const run = (Listen.run = { end: () => clearInterval(timer) });
    let left = seconds;
    const tick = () => {
      Listen.tell(`Kept. Now turn it: ${name.toLowerCase()}, ${left} s`);
      if (left-- > 0 || Listen.run !== run) return;
      clearInterval(timer);
      Listen.run = null;
      Listen.start();
    };
    const timer = setInterval(tick, 1000);
    tick();
  },
  stop(words) {
    Listen.run?.end();
    Listen.run = null;
    Listen.meter.hidden = Listen.halt.hidden = true;
    Listen.choose();
    Listen.tell(words);
  },
  async send(address, run) {
    const body = new FormData();
    const form = Listen.form.elements;
    const means = run.source === "microphone" ? `microphone, ${run.rate} Hz` : "simulated watch";
    const fields = { position: Listen.position(), lift: form.lift.value, beats: form.beats.value };
    for (const [name, value] of Object.entries(address === Listen.form.action ? { ...fields, means, key: Device.token() } : fields)) body.set(name, value);
    body.set("sound", Listen.wav(run), "recording.wav");
    const answer = await fetch(address, { method: "POST", body, headers: { "Marquetry-Fragment": "1", Accept: "text/html" } });
    return { ok: answer.ok, text: await answer.text() };
  },
  put(id, text) {
    const fresh = document.createElement("template");
    fresh.innerHTML = text;
    const part = fresh.content.getElementById(id);
    if (part) document.getElementById(id).replaceWith(part);
    else Listen.tell("The program refused it. Nothing was kept.");
  },
  // A file of 32 bit float, one channel: the samples as they are, behind forty-four bytes that say so.
  wav(run) {
    const head = new DataView(new ArrayBuffer(44));
    const letters = (at, text) => [...text].forEach((letter, i) => head.setUint8(at + i, letter.charCodeAt(0)));
    const bytes = run.count * 4;
    letters(0, "RIFF");
    head.setUint32(4, 36 + bytes, true);
    letters(8, "WAVEfmt ");
    head.setUint32(16, 16, true);
    head.setUint16(20, 3, true);
    head.setUint16(22, 1, true);
    head.setUint32(24, run.rate, true);
    head.setUint32(28, run.rate * 4, true);
    head.setUint16(32, 4, true);
    head.setUint16(34, 32, true);
    letters(36, "data");
    head.setUint32(40, bytes, true);
    return new Blob([head.buffer, ...run.blocks], { type: "audio/wav" });
  },
  // A chosen file goes the plain way, with the position that is chosen.
  file(event) {
    if (Listen.form.elements.source.value !== "file") event.preventDefault();
  },
};
window.addEventListener("DOMContentLoaded", Listen.begin);
window.addEventListener("pagehide", () => Listen.run?.end());
