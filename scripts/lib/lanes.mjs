/** Does jobs from first to last, as many at a time as there are lanes; a lane that is free takes the next. */
export async function inLanes(lanes, jobs) {
  const waiting = [...jobs];
  const lane = async () => {
    for (let job = waiting.shift(); job !== undefined; job = waiting.shift()) await job();
  };
  await Promise.all(Array.from({ length: lanes }, lane));
}
