<!-- @component
	What happened, told in a line: a note, what the air told, a photograph; now, or on another day.
-->
<script lang="ts">
	import { answer, api, problemText, type EntryData } from '../lib/api/client';
	import Note from '../lib/shell/Note.svelte';
	import { utcOffsetMin } from '../trim/words';

	interface Props {
		buildId: string;
		bands: string[];
		/** Called after something was kept. */
		onkept: () => void;
	}

	let { buildId, bands, onkept }: Props = $props();

	type What = 'note' | 'comparison' | 'report' | 'contact';
	const kinds: { key: What; name: string }[] = [
		{ key: 'note', name: 'Note' },
		{ key: 'comparison', name: 'Compared with another antenna' },
		{ key: 'report', name: 'Report from the air' },
		{ key: 'contact', name: 'Contact' }
	];
	// svelte-ignore state_referenced_locally
	const draft = `note:${buildId}`;
	let what = $state<What>('note');
	let text = $state(draftOf());
	let day = $state('');
	let band = $state('');
	let against = $state('');
	let stronger = $state('');
	let problem = $state<string | null>(null);
	let busy = $state(false);
	let over = $state(false);

	function data(): EntryData {
		if (what === 'note') return { kind: 'note' };
		const air = { kind: 'on_air', evidence: what, band } as const;
		if (what !== 'comparison') return air;
		const db = Number(stronger.replace(',', '.').replace('−', '-'));
		return { ...air, against, stronger_db: stronger.trim() === '' ? null : db };
	}

	/** What was written and not yet kept: it outlives a slip of the address. */
	function draftOf(): string {
		try {
			return sessionStorage.getItem(draft) ?? '';
		} catch {
			return '';
		}
	}
	$effect(() => {
		try {
			if (text) sessionStorage.setItem(draft, text);
			else sessionStorage.removeItem(draft);
		} catch {
			// A browser that keeps nothing still holds it as long as the page is open.
		}
	});

	/** Why it cannot be kept as it stands, or nothing. */
	const missing = $derived(
		what === 'note' && text.trim() === ''
			? 'Write what happened.'
			: what === 'comparison' &&
				  stronger.trim() !== '' &&
				  !Number.isFinite(Number(stronger.replace(',', '.').replace('−', '-')))
				? `“${stronger}” is no number of decibels, like 3 or −6.`
				: null
	);

	async function keep(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		if (busy) return;
		if (missing) {
			problem = missing;
			return;
		}
		busy = true;
		const told = text;
		try {
			await answer(
				api.POST('/api/builds/{build_id}/entries', {
					params: { path: { build_id: buildId } },
					body: {
						data: data(),
						text: told.trim(),
						utc_offset_min: utcOffsetMin(),
						happened_at: day ? new Date(day).toISOString() : null
					}
				})
			);
			// What was typed on meanwhile stays.
			if (text === told) text = '';
			// The next thing is told of now, and of another comparison, unless one says so again.
			day = against = stronger = '';
			problem = null;
			onkept();
		} catch (why) {
			problem = problemText(why);
		} finally {
			busy = false;
		}
	}

	async function take(files: Iterable<File>): Promise<void> {
		busy = true;
		const refused: string[] = [];
		for (const file of files) {
			try {
				await answer(
					api.POST('/api/builds/{build_id}/photographs', {
						params: {
							path: { build_id: buildId },
							query: { name: file.name.slice(0, 255), utc_offset_min: utcOffsetMin() }
						},
						body: file as unknown as string,
						bodySerializer: (body) => body as unknown as BodyInit,
						headers: { 'Content-Type': 'application/octet-stream' }
					})
				);
			} catch (why) {
				refused.push(`${file.name}: ${problemText(why)}`);
			}
		}
		busy = false;
		problem = refused.length ? refused.join(' ') : null;
		onkept();
	}
</script>

<form
	class="sheet tell unprinted"
	class:over
	onsubmit={keep}
	ondragover={(event) => {
		event.preventDefault();
		over = true;
	}}
	ondragleave={() => (over = false)}
	ondrop={(event) => {
		event.preventDefault();
		over = false;
		void take(event.dataTransfer?.files ?? []);
	}}
>
	<div class="line">
		<select aria-label="What is told" bind:value={what}>
			{#each kinds as kind (kind.key)}<option value={kind.key}>{kind.name}</option>{/each}
		</select>
		<input
			class="written words"
			aria-label="What happened"
			placeholder="What happened"
			maxlength="2000"
			bind:value={text}
		/>
		<button class="button main" type="submit" disabled={busy}>Keep</button>
		<label class="button">
			Photographs
			<input
				type="file"
				class="unseen"
				accept="image/jpeg,image/png"
				multiple
				disabled={busy}
				onchange={(event) => {
					void take([...(event.currentTarget.files ?? [])]);
					event.currentTarget.value = '';
				}}
			/>
		</label>
	</div>
	{#if what !== 'note'}
		<div class="line">
			<label
				>Band <select bind:value={band}
					><option value="">not said</option>{#each bands as b (b)}<option value={b}>{b}</option
						>{/each}</select
				></label
			>
			{#if what === 'comparison'}
				<label>Against <input class="written" maxlength="120" bind:value={against} /></label>
				<label
					>This one stronger by <input
						class="written few"
						inputmode="decimal"
						bind:value={stronger}
					/> dB</label
				>
			{/if}
		</div>
	{/if}
	<div class="line small">
		<label>When <input type="datetime-local" class="written" bind:value={day} /></label>
		<span class="soft"
			>now, when left empty. Photographs (JPEG or PNG, 16 MiB at most) can be dropped here; one that
			says when it was taken goes to that day.</span
		>
	</div>
	{#if problem}<Note kind="danger">{problem}</Note>{/if}
</form>

<style>
	.tell {
		display: grid;
		gap: 8px;
	}
	.over {
		outline: 2px dashed var(--copper);
	}
	.line {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		align-items: center;
		font-size: var(--size-13);
	}
	.words {
		flex: 1 1 200px;
		min-width: 0;
	}
	.few {
		width: 7ch;
	}
</style>
