<!-- @component
	A length typed as people write it, shown in the unit that is chosen.
-->
<script lang="ts">
	import { length } from '../units/format';
	import { units } from '../units/units.svelte';
	import QuantityField from './QuantityField.svelte';

	interface Props {
		/** Name for the eye and for screen readers. */
		label: string;
		metres: number;
		/** Called with the length in metres. May throw `Refused`, which is shown here. */
		onsettle: (metres: number) => unknown;
		/** Width in characters; 9 when left out. */
		width?: number;
	}

	let { label, metres, onsettle, width = 9 }: Props = $props();
</script>

<QuantityField {label} kind="length" {width} shown={length(metres, units.length)} {onsettle} />
