/** What is said of devices. */

/** How long ago something was, in words. */
export function ago(then: string, now: Date): string {
	const minutes = Math.max(0, (now.getTime() - new Date(then).getTime()) / 60_000);
	if (minutes < 2) return 'just now';
	if (minutes < 90) return `${Math.round(minutes)} min ago`;
	if (minutes < 36 * 60) return `${Math.round(minutes / 60)} h ago`;
	return `${Math.round(minutes / 1440)} days ago`;
}

/** What is left of a code, as minutes and seconds; null once it is over. */
export function left(until: string, now: Date): string | null {
	const seconds = Math.ceil((new Date(until).getTime() - now.getTime()) / 1000);
	if (seconds <= 0) return null;
	return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
}
