// The turning preview of a made part: its triangles come from the server, the browser only turns and lights them.
import * as three from "../vendor/three.module.min.js";

const canvas = document.getElementById("turning");
const told = document.getElementById("turning-told");
const Turning = {
  yaw: -0.6, pitch: 0.9, distance: 3, reach: 1, shown: null,
  tone(name, otherwise) {
    return new three.Color(getComputedStyle(document.documentElement).getPropertyValue(name).trim() || otherwise);
  },
  start() {
    this.renderer = new three.WebGLRenderer({ canvas, antialias: true, alpha: true });
    this.scene = new three.Scene();
    this.camera = new three.PerspectiveCamera(28, 1, 0.1, 1000);
    this.scene.add(new three.HemisphereLight(0xffffff, 0x9a8f7d, 2.4));
    const lamp = new three.DirectionalLight(0xffffff, 1.6);
    lamp.position.set(-1, 1.4, 2);
    this.scene.add(lamp);
    this.face = new three.MeshLambertMaterial({ flatShading: true, polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 });
    this.edge = new three.LineBasicMaterial();
  },
  async load() {
    const address = document.getElementById("made-drawing")?.dataset.mesh;
    if (!address || address === this.shown) return this.draw();
    this.shown = address;
    const answer = await fetch(address);
    if (!answer.ok || address !== this.shown) return undefined;
    this.put(new Float32Array(await answer.arrayBuffer()));
    return undefined;
  },
  put(corners) {
    for (const old of [this.body, this.lines]) if (old) { this.scene.remove(old); old.geometry.dispose(); }
    const shape = new three.BufferGeometry();
    shape.setAttribute("position", new three.BufferAttribute(corners, 3));
    shape.computeVertexNormals();
    shape.computeBoundingSphere();
    this.middle = shape.boundingSphere.center.clone();
    this.reach = shape.boundingSphere.radius;
    this.body = new three.Mesh(shape, this.face);
    this.lines = new three.LineSegments(new three.EdgesGeometry(shape, 20), this.edge);
    this.scene.add(this.body, this.lines);
    canvas.dataset.shown = this.shown;
    this.draw();
  },
  draw() {
    if (!this.body) return;
    const { clientWidth: width, clientHeight: height } = canvas;
    this.renderer.setPixelRatio(Math.min(devicePixelRatio, 2));
    this.renderer.setSize(width, height, false);
    this.face.color = this.tone("--tone-print", "#cfdac4");
    this.edge.color = this.tone("--ink", "#24211c");
    this.camera.aspect = width / height;
    const far = this.reach * this.distance * 1.5;
    const level = Math.cos(this.pitch) * far;
    this.camera.position.set(Math.sin(this.yaw) * level, -Math.cos(this.yaw) * level, Math.sin(this.pitch) * far).add(this.middle);
    this.camera.up.set(0, 0, 1);
    this.camera.lookAt(this.middle);
    this.camera.updateProjectionMatrix();
    this.renderer.render(this.scene, this.camera);
  },
  turn(across, down) {
    this.yaw -= across;
    this.pitch = Math.max(-1.55, Math.min(1.55, this.pitch + down));
    this.draw();
  },
  nearer(by) {
    this.distance = Math.max(1.4, Math.min(8, this.distance * by));
    this.draw();
  },
};

const KEYS = {
  ArrowLeft: () => Turning.turn(0.12, 0), ArrowRight: () => Turning.turn(-0.12, 0),
  ArrowUp: () => Turning.turn(0, -0.12), ArrowDown: () => Turning.turn(0, 0.12),
  "+": () => Turning.nearer(0.88), "-": () => Turning.nearer(1.14),
};
const listen = () => {
  canvas.addEventListener("pointermove", (event) => event.buttons && Turning.turn(event.movementX / 120, event.movementY / 120));
  canvas.addEventListener("pointerdown", (event) => canvas.setPointerCapture(event.pointerId));
  canvas.addEventListener("wheel", (event) => { event.preventDefault(); Turning.nearer(event.deltaY > 0 ? 1.08 : 0.92); }, { passive: false });
  canvas.addEventListener("keydown", (event) => {
    if (!KEYS[event.key]) return;
    event.preventDefault();
    event.stopPropagation();
    KEYS[event.key]();
  });
  document.addEventListener("swapped", () => Turning.load());
  new MutationObserver(() => Turning.draw()).observe(document.documentElement, { attributeFilter: ["data-theme"] });
  new ResizeObserver(() => Turning.draw()).observe(canvas);
};
if (canvas) {
  try {
    Turning.start();
    listen();
    Turning.load();
  } catch {
    canvas.hidden = true;
    told.textContent = "This browser draws no solids; plan and cut show the same part.";
  }
}
