/** A field a mark, as long as a hand can find them; columns. */
export const MOST_FIELDS = 15

/** Width of every drawing of a wall, in its own units. */
export const WIDTH = 600

interface Placed {
  xs: number[]
  ys: number[]
}

/** Metres on a wall to places in its drawing; y falls from the top. */
export function frameOf(wall: Placed) {
  const left = wall.xs[0]
  const top = wall.ys[0]
  const scale = WIDTH / (wall.xs.at(-1)! - left)
  const x = (metres: number) => (metres - left) * scale
  const y = (metres: number) => (top - metres) * scale
  const height = y(wall.ys.at(-1)!)
  /** Closed rings as one path, to be filled by the even-odd rule. */
  const path = (rings: number[][][]) =>
    rings.map((r) => `M${r.map((p) => `${x(p[0]).toFixed(1)} ${y(p[1]).toFixed(1)}`).join('L')}Z`).join('')
  /** Where a level's figure stands: rightmost on its rings, off the rim; nowhere where the wall ends before the level does. */
  const label = (rings: number[][][]) => {
    const inside = rings.flat().filter((p) => x(p[0]) > 20 && x(p[0]) < WIDTH - 20 && y(p[1]) > 12 && y(p[1]) < height - 8)
    if (inside.length === 0) return null
    const at = inside.reduce((a, b) => (b[0] > a[0] ? b : a))
    return { x: x(at[0]), y: y(at[1]) + 5 }
  }
  /** The brightest first; a figure that would lie on another is left out. */
  const labels = (contours: { level: number; rings: number[][][] }[]) => {
    const placed: { level: number; x: number; y: number }[] = []
    for (const c of [...contours].reverse()) {
      const at = label(c.rings)
      if (at && placed.every((p) => Math.abs(p.x - at.x) > 26 || Math.abs(p.y - at.y) > 16)) placed.push({ level: c.level, ...at })
    }
    return placed
  }
  return { x, y, height, path, labels }
}

/** Lux as few digits as it takes. */
export function luxText(lux: number): string {
  return lux >= 10 ? lux.toFixed(0) : String(Number(lux.toPrecision(2)))
}
