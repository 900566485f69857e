/** A thing that lasts from one day to another; `null` is open. Days as `yyyy-mm-dd`. */
export interface Lasting {
  startsOn: string | null;
  endsOn: string | null;
}

/** Puts things into as few lanes as their order allows, so that no two of a lane overlap. */
export function lanesOf<T extends Lasting>(things: T[]): T[][] {
  const lanes: T[][] = [];
  const inOrder = [...things].sort((a, b) => (a.startsOn ?? '').localeCompare(b.startsOn ?? ''));
  for (const thing of inOrder) {
    const free = lanes.find((lane) => endOf(lane[lane.length - 1]!) < (thing.startsOn ?? ''));
    if (free) free.push(thing);
    else lanes.push([thing]);
  }
  return lanes;
}

/** The last day of a thing; one that is open lasts for good. */
export const endOf = (thing: Lasting): string => thing.endsOn ?? '9999-12-31';
