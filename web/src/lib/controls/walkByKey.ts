/** Undo and redo by keys, everywhere alike; a field that is written in keeps them to itself. */
export function walkByKey(event: KeyboardEvent, walk: (way: 'undo' | 'redo') => void): void {
	const held = event.ctrlKey || event.metaKey;
	if (!held || (event.target as HTMLElement).tagName === 'INPUT') return;
	const key = event.key.toLowerCase();
	if (key !== 'z' && key !== 'y') return;
	event.preventDefault();
	walk(key === 'y' || event.shiftKey ? 'redo' : 'undo');
}
