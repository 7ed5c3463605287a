import { Job, type JobOut } from '$lib/sync/job.svelte';
import type { Reply } from '$lib/sync/query.svelte';

/** Shorter work shows nothing: the file is simply there. */
const QUICK = 400;

/** What is being made for the person, from whichever page, until they have it. */
class Tray {
  jobs = $state.raw<Job[]>([]);

  /** Has a file made, and hands it to the browser; what went wrong stays on the tray until it is read. */
  async download(label: string, ask: () => Promise<Reply<JobOut>>): Promise<void> {
    const job = new Job(label, ask);
    const shown = setTimeout(() => this.put(job), QUICK);
    const made = await job.run();
    clearTimeout(shown);
    if (job.state === 'failed') return this.put(job);
    this.drop(job);
    if (!made) return;
    const link = Object.assign(document.createElement('a'), {
      href: `/api/jobs/${made.id}/result`,
      download: made.file ?? '',
      target: '_self',
    });
    document.body.append(link);
    link.click();
    link.remove();
  }

  drop(job: Job): void {
    this.jobs = this.jobs.filter((other) => other !== job);
  }

  private put(job: Job): void {
    if (!this.jobs.includes(job)) this.jobs = [...this.jobs, job];
  }
}

export const tray = new Tray();
