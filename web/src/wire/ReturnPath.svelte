<!-- @component
	What an end-fed wire is fed against: a counterpoise of one school or another, or the shield down to a choke; and
	what flows into it.
-->
<script lang="ts">
	import { answer, api, type WireAntenna } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import { figures, length, quantity } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import type { AntennaPlan } from './plan.svelte';

	interface Props {
		work: AntennaPlan;
		frequencyHz: number;
	}

	let { work, frequencyHz }: Props = $props();

	const SHIELD = 'end-fed-on-shield';
	const parts = latest(
		() => ({ form: 'counterpoise' as const, frequency_hz: frequencyHz }),
		(body) => answer(api.POST('/api/lengths/parts', { body })),
		{ keeps: true }
	);
	const antenna = $derived(work.antenna);
	const onShield = $derived(antenna?.antenna === SHIELD);
	const now = $derived(antenna?.numbers['counterpoise_m'] ?? null);
	const short: Record<string, string> = {
		'counterpoise-twentieth': 'a twentieth',
		'counterpoise-quarter': 'quarter-wave',
		'counterpoise-shield': 'the shield'
	};
	const schools = $derived(parts.value?.schools ?? []);
	const chosen = (key: string, m: number) =>
		key === 'counterpoise-shield' ? onShield : now !== null && Math.abs(now - m) < 0.005;

	function take(key: string, m: number): void {
		if (!antenna) return;
		// Wire and heights stay; only what it is fed against is another. The shield hangs free of the ground.
		const { wire_m = 0, feed_m = 0, far_m = 0 } = antenna.numbers;
		const mark = Math.round(1000 * m) / 1000;
		const against: Partial<WireAntenna> =
			key === 'counterpoise-shield'
				? {
						antenna: SHIELD,
						numbers: { wire_m, feed_m, far_m, shield_m: Math.min(mark, 0.8 * feed_m) }
					}
				: { antenna: 'end-fed', numbers: { wire_m, feed_m, far_m, counterpoise_m: mark } };
		void work.attempt(() => work.change((now) => ({ ...now, ...against })));
	}
	/** What flows into it, and stands on it. */
	const other = $derived(work.shown?.picture.wires[1]);
	const amperes = $derived(Math.max(0, ...((other?.current_a ?? []) as number[])));
	const volts = $derived(Math.max(0, ...((other?.volts ?? []) as number[])));
</script>

<hr />
<h3>Return path</h3>
<div class="row" role="group" aria-label="Return path">
	{#each schools as school (school.key)}
		<button
			class="button"
			class:main={chosen(school.key, school.part_m)}
			aria-pressed={chosen(school.key, school.part_m)}
			title={school.source}
			onclick={() => take(school.key, school.part_m)}>{short[school.key] ?? school.school}</button
		>
	{/each}
</div>
<p class="told soft">
	{onShield
		? `The shield, ${length(antenna?.numbers['shield_m'] ?? 0, units.length)} down to the choke,`
		: `${length(now ?? 0, units.length)} of counterpoise`}
	{#if other}takes {figures(amperes, 2)} A and stands at up to {quantity(volts, 'V')}: it belongs to
		the wire, and moves its dip.{/if}
</p>

<style>
	hr {
		border: 0;
		border-top: 1px solid var(--line);
	}
	h3 {
		font-size: var(--size-14);
	}
</style>
