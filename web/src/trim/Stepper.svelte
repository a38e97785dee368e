<!-- @component
	A value set with two thumb-sized buttons, or typed.
-->
<script lang="ts">
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import type { Schemas } from '../lib/api/client';

	interface Props {
		label: string;
		kind: Schemas['QuantityIn']['kind'];
		value: number;
		/** What one press adds or takes. */
		step: number;
		/** What the value reads. */
		text: (value: number) => string;
		least?: number;
		onchange: (value: number) => void;
	}

	let { label, kind, value, step, text, least = 0, onchange }: Props = $props();

	// Presses go from mark to mark, so that the value stays on the tape or the dial.
	const stepped = (by: 1 | -1) => Math.max(least, (Math.round(value / step) + by) * step);
</script>

<div class="stepper">
	<button class="button" aria-label="{label}: less" onclick={() => onchange(stepped(-1))}>−</button>
	<QuantityField {label} {kind} shown={text(value)} width={11} onsettle={onchange} />
	<button class="button" aria-label="{label}: more" onclick={() => onchange(stepped(1))}>+</button>
</div>

<style>
	.stepper {
		display: flex;
		align-items: end;
		justify-content: space-between;
		gap: 8px;
	}
	.stepper :global(.field) {
		flex: 1;
	}
	.stepper :global(.field > label) {
		flex-basis: 100%;
	}
	.button {
		min-width: 56px;
		min-height: 56px;
		justify-content: center;
		font-size: var(--size-24);
	}
</style>
