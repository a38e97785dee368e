<!-- @component
	A control of a tuner: dragged, stepped by keys or typed; where advice was asked for, a mark of where it should stand.
-->
<script lang="ts">
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { type Control, names, valueText, wantedText } from './words';

	interface Props {
		control: Control;
		value: number;
		low: number;
		high: number;
		/** Where the advice wants it; null where it was not asked for. */
		wanted: number | null;
		onturn: (value: number, settled: boolean) => void;
	}

	let { control, value, low, high, wanted, onturn }: Props = $props();

	/** Steps of the slider over the whole range, by equal ratios. */
	const STEPS = 1000;
	const name = $derived(names[control]);
	const share = $derived((v: number) => Math.log(v / low) / Math.log(high / low));
	const at = $derived(Math.round(STEPS * Math.min(1, Math.max(0, share(value)))));
	const of = (step: number) => low * (high / low) ** (step / STEPS);
	const turn = $derived(-140 + 280 * share(value));
</script>

<div class="knob" class:wanted={wanted !== null}>
	<div class="head">
		<strong>{name.charAt(0).toUpperCase() + name.slice(1)}</strong>
		<QuantityField
			label={name}
			quiet
			kind={control === 'coil' ? 'inductance' : 'capacitance'}
			width={9}
			shown={valueText(control, value)}
			onsettle={(v) => onturn(Math.min(high, Math.max(low, v)), true)}
		/>
	</div>
	<div class="body">
		<svg viewBox="-34 -34 68 68" aria-hidden="true">
			<circle class="skirt" r="30" />
			{#each Array.from({ length: 11 }, (_, i) => -140 + 28 * i) as angle (angle)}
				<path class="tick" transform="rotate({angle})" d="M0,-32V-27" />
			{/each}
			{#if wanted !== null}
				<path class="mark" transform="rotate({-140 + 280 * share(wanted)})" d="M0,-33L-5,-24H5Z" />
			{/if}
			<g transform="rotate({turn})">
				<circle class="cap" r="20" />
				<path class="hand" d="M0,-6V-26" />
			</g>
		</svg>
		<div class="track">
			<input
				type="range"
				min="0"
				max={STEPS}
				value={at}
				aria-label="{name}, dial"
				aria-valuetext={valueText(control, value)}
				oninput={(e) => onturn(of(Number(e.currentTarget.value)), false)}
				onchange={(e) => onturn(of(Number(e.currentTarget.value)), true)}
			/>
			<span class="ends mono"
				><span>{valueText(control, low)}</span><span>{valueText(control, high)}</span></span
			>
			{#if wanted !== null}
				<span class="told"
					>{wanted > value ? 'more →' : '← less'}, to about {wantedText(
						control,
						wanted,
						value
					)}</span
				>
			{/if}
		</div>
	</div>
</div>

<style>
	.knob {
		display: grid;
		gap: 4px;
		padding: 8px 12px;
		border: 1px solid var(--line);
		border-radius: var(--radius);
		background: var(--sheet);
	}
	.knob.wanted {
		border-color: var(--verdigris);
		box-shadow: inset 4px 0 var(--verdigris);
	}
	.head,
	.body {
		display: flex;
		align-items: center;
		justify-content: space-between;
		gap: 10px;
	}
	svg {
		width: 76px;
		height: 76px;
		flex: none;
	}
	.skirt {
		fill: var(--core);
	}
	.tick {
		stroke: var(--ink);
	}
	.cap {
		fill: var(--ink);
	}
	.hand {
		stroke: var(--tape);
		stroke-width: 4;
	}
	.mark {
		fill: var(--verdigris);
	}
	.track {
		flex: 1;
		display: grid;
		gap: 2px;
		min-width: 0;
	}
	input {
		width: 100%;
		accent-color: var(--copper);
		min-height: 28px;
	}
	.ends {
		display: flex;
		justify-content: space-between;
		font-size: var(--size-12);
		color: var(--soft);
	}
	.track .told {
		color: var(--verdigris);
		font-weight: 600;
	}
	@media (max-width: 620px), (pointer: coarse) {
		input {
			min-height: 44px;
		}
	}
</style>
