<!-- @component
	A whole number with one step less and more beside it.
-->
<script lang="ts">
	interface Props {
		/** Name for the eye and for screen readers. */
		label: string;
		value: number;
		least?: number;
		most?: number;
		onchange: (value: number) => void;
	}

	let { label, value, least = 1, most = 200, onchange }: Props = $props();
</script>

<span class="steps">
	<span class="label">{label}</span>
	<button
		class="button"
		aria-label="{label}: one less"
		disabled={value <= least}
		onclick={() => onchange(value - 1)}>−</button
	>
	<input
		class="mono"
		aria-label={label}
		inputmode="numeric"
		{value}
		onchange={(event) => {
			const typed = Number(event.currentTarget.value);
			if (Number.isInteger(typed) && typed >= least && typed <= most) onchange(typed);
			else event.currentTarget.value = String(value);
		}}
	/>
	<button
		class="button"
		aria-label="{label}: one more"
		disabled={value >= most}
		onclick={() => onchange(value + 1)}>+</button
	>
</span>

<style>
	.steps {
		display: inline-flex;
		align-items: center;
		gap: 4px;
		font-size: var(--size-13);
	}
	.label {
		color: var(--soft);
		margin-right: 2px;
	}
	input {
		width: 3.2ch;
		box-sizing: content-box;
		text-align: center;
		border: 1px solid var(--control-edge);
		border-radius: 6px;
		background: var(--sheet);
		padding: 3px 4px;
	}
	.button {
		padding: 3px 9px;
	}
</style>
