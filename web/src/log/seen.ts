/** Calls once something comes near the screen: pictures and curves are fetched when they are first seen. */
export function whenSeen(act: () => void): (element: Element) => () => void {
	return (element) => {
		const watch = new IntersectionObserver(
			(found) => {
				if (!found.some((entry) => entry.isIntersecting)) return;
				watch.disconnect();
				act();
			},
			{ rootMargin: '400px' }
		);
		watch.observe(element);
		return () => watch.disconnect();
	};
}
