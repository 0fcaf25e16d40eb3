import type { RehearsalTrace } from '@/core/rehearsal/frame-trace';

/**
 * Notes the page's tasks that take longer than 50 ms (W3C Long Tasks API).
 * @param baseUs the take's first instant in the page's clock
 * @returns ends the watch and gives what was noted
 */
export function watchLongTasks(baseUs: number): () => RehearsalTrace['longTasks'] {
  const tasks: RehearsalTrace['longTasks'] = [];
  const note = (entries: PerformanceEntryList) => {
    for (const { startTime, duration } of entries)
      tasks.push({ atUs: Math.round(startTime * 1000 - baseUs), ms: duration });
  };
  const observer = new PerformanceObserver((list) => note(list.getEntries()));
  observer.observe({ type: 'longtask' });
  return () => {
    note(observer.takeRecords());
    observer.disconnect();
    return tasks;
  };
}
