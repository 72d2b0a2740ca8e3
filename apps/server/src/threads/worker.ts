import { TASKS, type Tasks } from "./tasks";

/** What a thread of the pool does with what it is sent. */
export default async function work({ task, given }: { task: keyof Tasks; given: never }): Promise<unknown> {
  return TASKS[task](given);
}
