/** A block whose name does not hold in it. */
export interface Told {
  id: string
  name: string
  /** Middle of the block, and so its leader's place. */
  at: number
}
export interface Leader extends Told {
  said: string
  lane: number
  from: number
  to: number
}

const LETTER = 6.6
const MOST = 20
const GAP = 6

/**
 * Names below a row, each with a line up to its block: in lanes, so that no name lies on another and no line runs
 * through a name. From the right: a name further left goes into a lower lane where it would be in the way. What finds
 * no room is left out.
 */
export function leaders(blocks: Told[], lanes: number, far: number): Leader[] {
  const placed: Leader[] = []
  for (const block of [...blocks].sort((a, b) => b.at - a.at)) {
    const said = block.name.length > MOST ? `${block.name.slice(0, MOST - 1).trimEnd()}…` : block.name
    const width = said.length * LETTER
    // A name goes on to the right of its line; at the end of the drawing, to the left of it.
    const spans = [
      [block.at + 2, block.at + 2 + width],
      [block.at - 2 - width, block.at - 2],
    ].filter(([from, to]) => from >= 0 && to <= far)
    const free = spans.flatMap(([from, to]) =>
      Array.from({ length: lanes }, (_, lane) => ({ ...block, said, lane, from, to })).filter((me) =>
        placed.every((other) => clear(me, other)),
      ),
    )
    // To the right in whichever lane, before to the left.
    if (free.length) placed.push(free[0])
  }
  return placed
}

/** Neither name lies on the other, nor does either's line run through the other's name. */
function clear(one: Leader, other: Leader) {
  if (one.lane === other.lane && one.from < other.to + GAP && other.from < one.to + GAP) return false
  return !crosses(one, other) && !crosses(other, one)
}
const crosses = (line: Leader, name: Leader) => name.lane <= line.lane && line.at > name.from - 2 && line.at < name.to + 2
