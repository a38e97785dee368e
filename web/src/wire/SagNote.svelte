<!-- @component
	How a wire between two supports hangs through at its pull, and what that does to its dip: a rough figure.
-->
<script lang="ts">
	import type { Schemas } from '../lib/api/client';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { figures, length } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import { movesText } from './words';

	interface Props {
		sag: Schemas['SagOut'];
		/** What the dip moves by; null where it is not told. */
		movesHz: number | null;
		/** Takes another pull; throws what refuses it. */
		onpull: (newton: number) => Promise<unknown>;
	}

	let { sag, movesHz, onpull }: Props = $props();
</script>

<hr />
<p class="told">
	Pulled with
	<QuantityField
		label="pull"
		quiet
		kind="pull"
		shown="{figures(sag.pull_n)} N"
		width={7}
		onsettle={onpull}
	/>
	it hangs {length(sag.middle_m, units.length)} through in the middle{sag.coax_kg
		? `, ${figures(sag.coax_kg, 2)} kg of coax and balun on it`
		: ''}; {Math.round(100 * sag.tears_share)} % of what tears it.{movesHz === null
		? ''
		: ` That brings the dip ${movesText(movesHz)}.`} A rough figure.
</p>

<style>
	hr {
		border: 0;
		border-top: 1px solid var(--line);
	}
</style>
