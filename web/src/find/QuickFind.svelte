<!-- @component
	Quick-find: builds, their desks and parts, and the other pages, by a few letters.
-->
<script lang="ts">
	import { answer, api, type Design } from '../lib/api/client';
	import { router } from '../lib/router/router.svelte';
	import { isBelow, isWound, unitOf, valueOf, woundName } from '../design/content';
	import { partTitle } from '../design/words';
	import { titleOf } from '../winding/wound';
	import { quantity } from '../lib/units/format';
	import Dialog from '../lib/shell/Dialog.svelte';
	import { type Found, search } from './find';
	import { stages } from '../lib/shell/stages';

	let { onclose }: { onclose: () => void } = $props();

	const pages: Found[] = [
		{ name: 'Builds', detail: 'the shelf', href: '/' },
		{ name: 'Analyser', detail: 'connect, calibrate, sweep', href: '/analyser' },
		{ name: 'Drawer', detail: 'cores, wires, cables, capacitors, formers, boxes', href: '/drawer' },
		{ name: 'Lines', detail: 'know your line, the way to a break', href: '/lines' },
		{
			name: 'Which antenna for this place',
			detail: 'choose: poles, trees, loft, balcony; bands; every school compared',
			href: '/choose'
		},
		{
			name: 'A length that fits',
			detail: 'any wire through 9 : 1 and a tuner: half-waves, margins, counterpoise',
			href: '/any-length'
		},
		{
			name: 'Plain sums of a line',
			detail: 'SWR from one end to the other, loss, two readings',
			href: '/sums'
		},
		{
			name: 'At the tuner',
			detail: 'which knob, which way; practice on the simulated bench',
			href: '/tuner'
		},
		{ name: 'Devices', detail: 'pair a phone, send one away', href: '/devices' },
		{ name: 'Bands', detail: 'amateur bands and their segments', href: '/bands' },
		{ name: 'Bin', detail: 'what can be taken back', href: '/bin' },
		{
			name: 'Which ring is this?',
			detail: 'core, mix, toroid, ferrite, powder: measure it',
			href: '/drawer?kind=core&measure'
		},
		{
			name: 'Two capacitors that make a third',
			detail: 'drawer, combine',
			href: '/drawer?kind=capacitor'
		},
		{
			name: 'Velocity factor and loss of a coax',
			detail: 'lines: know your line, open, short',
			href: '/lines'
		},
		{ name: 'Short, open, load', detail: 'calibrate the analyser', href: '/analyser' }
	];
	/** What is made on a desk, in the words of the trade. */
	const makes: [string, string, string][] = [
		['Unun or transformer', 'wind', '9 : 1, 49 : 1, 64 : 1, end-fed, toroid, impedance ratio'],
		['Balun', 'wind', 'current balun, voltage balun, 1 : 1, 4 : 1'],
		['Choke', 'wind', 'common mode, braid, coax on a ring, line isolator'],
		['Trap', 'wind', 'coil and capacitor, coax trap, two bands'],
		['Loading coil or L match', 'match', 'series, shunt, inductance, capacitor'],
		['Length of a wire', 'wire', 'dipole, vertical, loop, radials, counterpoise, velocity'],
		['Fold or cut', 'trim', 'dip, resonance, shorten, lengthen']
	];
	let things = $state.raw<Found[]>(pages);
	let text = $state('');
	let at = $state(0);
	const found = $derived(search(things, text));

	function parts(design: Design, build: string, to: string): Found[] {
		return design.revision.content.elements.flatMap((e) => {
			if (isBelow(e)) return [];
			if (isWound(e)) {
				return [
					{
						name: woundName(e),
						detail: `wound for ${build}, ${design.name}`,
						href: `${to.replace(/match$/, 'wind')}?design=${design.id}`
					}
				];
			}
			const what = partTitle(e);
			const value = quantity(valueOf(e), unitOf(e));
			return [
				{
					name: `${what} ${value}`,
					detail: `part of ${build}, ${design.name}`,
					href: `${to}?design=${design.id}`
				}
			];
		});
	}

	/** Chokes and traps beside a design. */
	function besides(design: Design, build: string, to: string): Found[] {
		return (design.revision.content.beside ?? []).map((e) => ({
			name: titleOf(e),
			detail: `wound for ${build}, ${design.name}`,
			href: `${to.replace(/match$/, 'wind')}?design=${design.id}&piece=${e.key}`
		}));
	}

	async function load(): Promise<void> {
		const builds = await answer(api.GET('/api/builds'));
		const desks = stages.filter((s) => s.desk);
		things = [
			...builds.map((b) => ({ name: b.name, detail: 'build', href: `/builds/${b.id}/sweep` })),
			...pages,
			...builds.flatMap((b) =>
				[...desks, { key: 'fault', name: 'Fault' }, { key: 'outdoors', name: 'Outdoors' }].map(
					(s) => ({
						name: s.name,
						detail: `${s.key === 'outdoors' ? 'trim loop' : 'desk'} of ${b.name}`,
						href: `/builds/${b.id}/${s.key}`
					})
				)
			)
		];
		const own = await answer(api.GET('/api/pieces'));
		things = [
			...things,
			...own.map((p) => ({
				name: p.held.name,
				detail: `${p.held.kind} in the drawer`,
				href: `/drawer?kind=${p.held.kind}`
			})),
			...makes.flatMap(([name, desk, words]) =>
				builds.map((b) => ({
					name: `${name} for ${b.name}`,
					detail: words,
					href: `/builds/${b.id}/${desk}`
				}))
			)
		];
		const made = await Promise.all(
			builds.map(async (b) => {
				const designs = await answer(
					api.GET('/api/builds/{build_id}/designs', { params: { path: { build_id: b.id } } })
				);
				return designs.flatMap((d) => [
					...parts(d, b.name, `/builds/${b.id}/match`),
					...besides(d, b.name, `/builds/${b.id}/match`)
				]);
			})
		);
		things = [...things, ...made.flat()];
	}
	void load().catch(() => undefined);

	function go(to: Found | undefined): void {
		if (!to) return;
		onclose();
		router.go(to.href);
	}

	function keyed(event: KeyboardEvent): void {
		const way = { ArrowDown: 1, ArrowUp: -1 }[event.key];
		if (way !== undefined) {
			event.preventDefault();
			at = Math.max(0, Math.min(found.length - 1, at + way));
		} else if (event.key === 'Enter') {
			event.preventDefault();
			go(found[at]);
		}
	}
</script>

<Dialog title="Find" {onclose}>
	<!-- svelte-ignore a11y_autofocus (a window opened to type into) -->
	<input
		autofocus
		role="combobox"
		aria-expanded="true"
		aria-controls="found"
		aria-activedescendant={found[at] ? `found-${at}` : undefined}
		aria-label="Find a build, a part, a desk"
		placeholder="a build, a part, a desk"
		autocomplete="off"
		value={text}
		oninput={(event) => {
			text = event.currentTarget.value;
			at = 0;
		}}
		onkeydown={keyed}
	/>
	<ul id="found" role="listbox" aria-label="Found">
		{#each found as f, i (f.href + f.name)}
			<!-- svelte-ignore a11y_click_events_have_key_events (the field above takes the keys) -->
			<li id="found-{i}" role="option" aria-selected={i === at} onclick={() => go(f)}>
				<strong>{f.name}</strong> <span class="soft">{f.detail}</span>
			</li>
		{/each}
	</ul>
	{#if found.length === 0}<p class="soft" role="status">Nothing here has that name.</p>{/if}
</Dialog>

<style>
	input {
		width: min(520px, 78vw);
		padding: 8px 10px;
		border: 1px solid var(--control-edge);
		border-radius: 6px;
		background: var(--sheet);
	}
	ul {
		list-style: none;
		padding: 0;
		margin-top: 8px;
	}
	li {
		padding: 6px 10px;
		border-radius: 6px;
		cursor: pointer;
	}
	li[aria-selected='true'] {
		background: var(--selected);
		box-shadow: inset 4px 0 0 var(--copper);
	}
</style>
