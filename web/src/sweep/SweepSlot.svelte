<!-- @component
	One sweep of a line: swept now with the analyser, or a file of it.
-->
<script lang="ts">
	import { dropSweep, type Sweep } from '../lib/api/client';
	import { megahertz } from '../lib/units/format';

	interface Props {
		/** As in "far end open". */
		title: string;
		/** What to do at the far end. */
		hint: string;
		sweep: Sweep | null;
		/** Whether an analyser is there to sweep with. */
		canSweep: boolean;
		/** Sweeps it now. */
		onsweep: () => void;
		/** Runs what may be refused, and says so. */
		attempt: (act: () => Promise<unknown>) => Promise<void>;
		ontake: (sweep: Sweep) => void;
	}

	let { title, hint, sweep, canSweep, onsweep, attempt, ontake }: Props = $props();

	const id = `slot-${Math.random().toString(36).slice(2)}`;

	function chosen(event: Event): void {
		const field = event.currentTarget as HTMLInputElement;
		const file = field.files?.[0];
		if (file) void attempt(async () => ontake(await dropSweep(file)));
		field.value = '';
	}
</script>

<li class:there={sweep}>
	<strong>{title}</strong>
	{#if sweep}
		<small class="soft"
			>{sweep.name}, {sweep.points} points, {megahertz(sweep.low_hz)} to {megahertz(sweep.high_hz)} MHz</small
		>
	{:else}
		<small class="soft">{hint}</small>
	{/if}
	<span class="row">
		{#if canSweep}
			<button
				class="button"
				class:main={!sweep}
				aria-label="{sweep ? 'Sweep it again' : 'Sweep it'}: {title}"
				onclick={onsweep}>{sweep ? 'Sweep it again' : 'Sweep it'}</button
			>
		{/if}
		<label class="button" for={id}>A file of it<span class="unseen">: {title}</span></label>
		<input {id} class="unseen" type="file" onchange={chosen} />
	</span>
</li>

<style>
	li {
		display: grid;
		gap: 4px;
		border-left: 4px solid var(--line);
		padding-left: 10px;
	}
	.there {
		border-left-color: var(--verdigris);
	}
	strong::first-letter {
		text-transform: uppercase;
	}
	small {
		font-size: var(--size-12);
	}
	.row:focus-within .button[for] {
		outline: 2px solid var(--blueprint);
	}
</style>
