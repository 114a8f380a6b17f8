import { DEMANDS, PlanRefused, type DayProblem, type DayTask } from './problem';

/**
 * Each device's tasks in the order in which they are run: light to heavy, or as
 * listed, but never before what they come after.
 *
 * @returns indices into `tasks`, one list a device, in the order of `devices`
 * @throws PlanRefused where steps wait for one another in a circle
 * @source Kahn (1962), topological sorting; among what may come next, the lightest, then the first listed
 */
export function deviceOrders({
  devices,
  tasks,
  order,
}: Pick<DayProblem, 'devices' | 'tasks' | 'order'>): number[][] {
  const place = new Map(tasks.map((task, i) => [task.id, i]));
  const waitsFor = tasks.map((task) => task.after.filter((id) => place.has(id)).length);
  const followers = tasks.map((): number[] => []);
  tasks.forEach((task, i) => task.after.forEach((id) => followers[place.get(id) ?? -1]?.push(i)));
  const weight = (i: number): number =>
    (order === 'light-to-heavy' ? DEMANDS.indexOf(tasks[i]!.demand) : 0) * tasks.length + i;
  const free = tasks.map((_, i) => i).filter((i) => waitsFor[i] === 0);
  const orders = devices.map((): number[] => []);
  const deviceAt = new Map(devices.map((device, d) => [device.id, d]));
  let done = 0;
  while (free.length > 0) {
    const next = free.reduce((best, i) => (weight(i) < weight(best) ? i : best));
    free.splice(free.indexOf(next), 1);
    orders[deviceAt.get(tasks[next]!.deviceId)!]!.push(next);
    done++;
    for (const follower of followers[next]!) if (--waitsFor[follower]! === 0) free.push(follower);
  }
  if (done < tasks.length) throw circle(tasks, waitsFor);
  return orders;
}

function circle(tasks: DayTask[], waitsFor: number[]): PlanRefused {
  // whoever still waits stands in the circle or behind it: walking back from one ends in the circle
  const stuck = new Map(tasks.filter((_, i) => waitsFor[i]! > 0).map((task) => [task.id, task]));
  const path: DayTask[] = [];
  let at: DayTask = stuck.values().next().value!;
  while (!path.includes(at)) {
    path.push(at);
    at = stuck.get(at.after.find((id) => stuck.has(id))!)!;
  }
  const names = path.slice(path.indexOf(at)).map((task) => `“${task.name}”`);
  return new PlanRefused(
    at.id,
    names.length === 1
      ? `${names[0]} comes after itself.`
      : `${names.join(' waits for ')}, which waits for ${names[0]}: the order is circular.`,
    'Remove one “Only after” setting.',
  );
}
