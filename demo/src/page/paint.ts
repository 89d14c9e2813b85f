import { plateCells, plateLayout } from '../plate';
import type { Marble, Scene } from '../scenes';
import { woodTile } from './wood';

type Context = OffscreenCanvasRenderingContext2D;

/** Pixels of the set around the picture that a camera that is held by hand may come to see, as a share of its width. */
const AROUND = 0.2;

/** Draws the frames of a scene. What does not move is drawn once. */
export class ScenePainter {
  private readonly canvas: OffscreenCanvas;
  private readonly context: Context;
  private readonly set: OffscreenCanvas;
  private readonly scale: number;
  private readonly around: number;

  constructor(
    private readonly scene: Scene,
    readonly width: number,
    readonly height: number,
  ) {
    this.canvas = new OffscreenCanvas(width, height);
    this.context = this.canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;
    this.scale = width / scene.view.width;
    this.around = scene.held ? Math.ceil(AROUND * width) : 0;
    this.set = this.paintSet();
  }

  /** The picture of a frame. */
  frame(number: number): OffscreenCanvas {
    return this.picture(number, number / this.scene.fps);
  }

  /** The picture of a field, all lines of it, its own number on the plate; two fields follow each other in a frame's time. */
  field(number: number): ImageData {
    return this.picture(number, number / (2 * this.scene.fps))
      .getContext('2d')!
      .getImageData(0, 0, this.width, this.height);
  }

  private picture(number: number, time: number): OffscreenCanvas {
    const { context, width, height } = this;
    const held = this.scene.held?.(time);
    context.save();
    if (held) {
      context.imageSmoothingQuality = 'high';
      context.translate(width / 2 + held.right * width, height / 2 + held.down * width);
      context.rotate(held.turn);
      context.translate(-width / 2, -height / 2);
    }
    context.drawImage(this.set, -this.around, -this.around);
    for (const marble of this.scene.marbles) this.shadow(marble, time);
    for (const marble of this.scene.marbles) this.marble(marble, time);
    context.restore();
    this.plate(number);
    return this.canvas;
  }

  private x(metres: number): number {
    return this.width / 2 + (metres - this.scene.view.x) * this.scale;
  }

  private y(metres: number): number {
    return this.height / 2 - (metres - this.scene.view.y) * this.scale;
  }

  private paintSet(): OffscreenCanvas {
    const { width, height, around } = this;
    const canvas = new OffscreenCanvas(width + 2 * around, height + 2 * around);
    const context = canvas.getContext('2d')!;
    context.translate(around, around);
    const wall = woodTile(canvas.width, canvas.height, [84, 64, 52], [48, 36, 31], 0.35);
    context.drawImage(wall, -around, -around);
    const lamp = context.createRadialGradient(width * 0.34, height * 0.12, 20, width * 0.4, height * 0.3, width * 0.85);
    lamp.addColorStop(0, 'rgba(255, 214, 150, 0.62)');
    lamp.addColorStop(0.45, 'rgba(120, 84, 56, 0.2)');
    lamp.addColorStop(1, 'rgba(12, 10, 14, 0.82)');
    context.fillStyle = lamp;
    context.fillRect(-around, -around, canvas.width, canvas.height);
    // Pegs and seams of the wall behind.
    context.strokeStyle = 'rgba(20, 14, 12, 0.35)';
    context.lineWidth = 2;
    for (let row = 1; row < 5; row++) {
      context.beginPath();
      context.moveTo(-around, (height * row) / 5);
      context.lineTo(width + around, (height * row) / 5);
      context.stroke();
    }
    if (this.scene.held) this.pegs(context);
    const top = context.createPattern(woodTile(width, height, [226, 182, 126], [166, 112, 66]), 'repeat')!;
    for (const board of this.scene.boards) {
      const path = new Path2D();
      board.forEach(([x, y], i) => (i === 0 ? path.moveTo(this.x(x), this.y(y)) : path.lineTo(this.x(x), this.y(y))));
      path.closePath();
      context.save();
      context.shadowColor = 'rgba(0, 0, 0, 0.55)';
      context.shadowBlur = 26;
      context.shadowOffsetY = 14;
      context.fillStyle = top;
      context.fill(path);
      context.restore();
      context.save();
      context.clip(path);
      const shade = context.createLinearGradient(0, this.y(0.7), 0, this.y(-0.12));
      shade.addColorStop(0, 'rgba(255, 240, 210, 0.2)');
      shade.addColorStop(1, 'rgba(30, 14, 6, 0.5)');
      context.fillStyle = shade;
      context.fillRect(-around, -around, canvas.width, canvas.height);
      context.strokeStyle = 'rgba(255, 236, 200, 0.55)';
      context.lineWidth = 3;
      context.stroke(path);
      context.restore();
    }
    return canvas;
  }

  /** Round pegs in the wall, in rows that are not quite even: something for the eye to hold on to. */
  private pegs(context: Context): void {
    const { width, height, around } = this;
    const step = width / 14;
    const radius = width / 170;
    for (let row = 0, y = step / 2 - around; y < height + around; y += step, row++) {
      for (let n = 0, x = ((row % 2) * step) / 2 - around; x < width + around; x += step, n++) {
        const [cx, cy] = [x + Math.sin(7 * row + 3 * n) * step * 0.2, y + Math.sin(5 * row + 11 * n) * step * 0.2];
        context.fillStyle = 'rgba(10, 6, 4, 0.8)';
        context.beginPath();
        context.arc(cx + radius * 0.3, cy + radius * 0.4, radius, 0, 2 * Math.PI);
        context.fill();
        context.fillStyle = `hsl(30 45% ${48 + 12 * Math.sin(row + 2 * n)}%)`;
        context.beginPath();
        context.arc(cx, cy, radius * 0.8, 0, 2 * Math.PI);
        context.fill();
      }
    }
  }

  private shadow(marble: Marble, time: number): void {
    const { x, y } = marble.at(time);
    const floor = this.floorUnder(x, y - marble.radius);
    if (floor === undefined) return;
    const lift = Math.max(0, y - marble.radius - floor);
    const { context } = this;
    const size = marble.radius * this.scale * (1 + lift * 2.2);
    context.save();
    context.filter = `blur(${(2 + lift * 34).toFixed(1)}px)`;
    context.fillStyle = `rgba(24, 10, 2, ${Math.max(0.1, 0.6 - lift * 1.2).toFixed(3)})`;
    context.beginPath();
    context.ellipse(this.x(x + lift * 0.16), this.y(floor) + 3, size, size * 0.22, 0, 0, 2 * Math.PI);
    context.fill();
    context.restore();
  }

  /** Height of the highest wood beneath a point. */
  private floorUnder(x: number, y: number): number | undefined {
    let floor: number | undefined;
    for (const board of this.scene.boards) {
      board.forEach(([x0, y0], i) => {
        const [x1, y1] = board[(i + 1) % board.length]!;
        if (x0 === x1 || x < Math.min(x0, x1) || x > Math.max(x0, x1)) return;
        const level = y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
        if (level <= y + 0.02 && (floor === undefined || level > floor)) floor = level;
      });
    }
    return floor;
  }

  private marble(marble: Marble, time: number): void {
    const { context } = this;
    const at = marble.at(time);
    const [x, y, r] = [this.x(at.x), this.y(at.y), marble.radius * this.scale];
    const turn = at.x / marble.radius;
    context.save();
    context.beginPath();
    context.arc(x, y, r, 0, 2 * Math.PI);
    context.clip();
    const body = context.createRadialGradient(x - r * 0.35, y - r * 0.45, r * 0.1, x, y, r * 1.05);
    body.addColorStop(0, `hsl(${marble.hue} 85% 74%)`);
    body.addColorStop(0.55, `hsl(${marble.hue} 78% 46%)`);
    body.addColorStop(1, `hsl(${marble.hue} 80% 14%)`);
    context.fillStyle = body;
    context.fillRect(x - r, y - r, 2 * r, 2 * r);
    // The twisted ribbon inside turns with the marble.
    context.translate(x, y);
    context.rotate(turn);
    context.lineCap = 'round';
    for (const [offset, colour] of [
      [-0.16, 'rgba(255, 250, 235, 0.85)'],
      [0.16, `hsl(${(marble.hue + 180) % 360} 80% 62% / 0.8)`],
    ] as const) {
      context.strokeStyle = colour;
      context.lineWidth = r * 0.17;
      context.beginPath();
      context.moveTo(-r * 0.8, offset * r);
      context.bezierCurveTo(-r * 0.3, (offset - 0.75) * r, r * 0.3, (offset + 0.75) * r, r * 0.8, offset * r);
      context.stroke();
    }
    context.restore();
    context.fillStyle = 'rgba(255, 255, 255, 0.88)';
    context.beginPath();
    context.ellipse(x - r * 0.36, y - r * 0.46, r * 0.22, r * 0.13, -0.6, 0, 2 * Math.PI);
    context.fill();
  }

  private plate(frame: number): void {
    const { x, y, cell } = plateLayout(this.width, this.height);
    const cells = plateCells(frame);
    drawPlate(
      this.context,
      x,
      y,
      cell,
      cells,
      `${this.scene.name.toUpperCase()}  ${this.scene.fps}  ${String(frame).padStart(4, '0')}`,
    );
  }
}

/** Draws the plate: the words for people above, the cells beneath. */
function drawPlate(
  context: Context,
  x: number,
  y: number,
  cell: number,
  cells: readonly number[],
  words: string,
): void {
  const width = cell * cells.length;
  context.fillStyle = '#101114';
  context.beginPath();
  context.roundRect(x - cell, y - cell * 2.6, width + 2 * cell, cell * 4.6, cell * 0.5);
  context.fill();
  context.fillStyle = '#f2ead8';
  context.font = `600 ${Math.round(cell * 1.5)}px monospace`;
  context.textBaseline = 'alphabetic';
  context.fillText(words, x, y - cell * 0.75, width);
  cells.forEach((value, i) => {
    context.fillStyle = value ? '#ffffff' : '#000000';
    context.fillRect(x + i * cell, y, cell, cell);
  });
}
