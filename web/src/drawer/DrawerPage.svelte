<!-- @component
	The drawer: what one holds and what the trade sells, by kind, searched, in and out as a table.
-->
<script lang="ts">
	import { answer, api, type Piece, problemText, refused, type Trade } from '../lib/api/client';
	import { Latest } from '../lib/api/latest.svelte';
	import { router } from '../lib/router/router.svelte';
	import Header from '../lib/shell/Header.svelte';
	import Note from '../lib/shell/Note.svelte';
	import Characterise from './Characterise.svelte';
	import Combine from './Combine.svelte';
	import PieceForm from './PieceForm.svelte';
	import { answers, detail, type Held, type Kind, kinds, tradeRows } from './words';

	let trade = $state.raw<Trade | null>(null);
	let problem = $state<string | null>(null);
	let news = $state<string | null>(null);
	let binned = $state.raw<Piece | null>(null);
	let wanted = $state('');
	let open = $state<string | null>(null);
	const asked = router.place.query.get('kind');
	let kind = $state<Kind>(kinds.find((k) => k.key === asked)?.key ?? 'core');
	/** Builds that a piece of the drawer may go to, newest first, and the one that is thought of. */
	let builds = $state.raw<{ id: string; name: string }[]>([]);
	let buildId = $state('');
	void answer(api.GET('/api/builds'))
		.then((found) => {
			builds = found;
			buildId = found[0]?.id ?? '';
		})
		.catch(() => undefined);
	/** What a piece can become: words, and the desk where it does. */
	const becomes: Partial<Record<Kind, [string, (piece: string) => string][]>> = {
		core: [['wind on it', (id) => `wind?core=${id}`]],
		wire: [['wind with it', (id) => `wind?wire=${id}`]],
		capacitor: [
			['a trap with it', (id) => `wind?capacitor=${id}`],
			['a match with it', () => 'match']
		]
	};
	let measuring = $state(router.place.query.get('measure') !== null);
	const shownMost = 40;

	async function attempt(act: () => Promise<unknown>): Promise<boolean> {
		try {
			await act();
			problem = null;
			return true;
		} catch (why) {
			problem = problemText(why);
			return false;
		}
	}
	const pieces = new Latest(() => answer(api.GET('/api/pieces')), { keeps: true });
	const own = $derived(pieces.value ?? []);
	const load = () => pieces.ask(null);
	void attempt(async () => {
		[trade] = await Promise.all([answer(api.GET('/api/drawer')), load()]);
	});

	function show(to: Kind): void {
		kind = to;
		wanted = '';
		open = null;
		router.note({ kind: to });
	}
	const add = (held: Held) =>
		attempt(async () => {
			const made = await answer(api.POST('/api/pieces', { body: held }));
			await load();
			open = made.id;
			news = `“${made.held.name}” lies in your drawer. Say what yours is like.`;
		});
	/** Changes of pieces go one after the other, each on what the one before it made. */
	let changing: Promise<unknown> = Promise.resolve();
	function onNewest<T>(id: string, act: (piece: Piece) => Promise<T>): Promise<T> {
		const done = changing.then(() => {
			const piece = own.find((p) => p.id === id);
			if (!piece) throw refused('This piece lies in your drawer no longer');
			return act(piece);
		});
		changing = done.catch(() => undefined);
		return done;
	}
	const change = (id: string, make: (held: Held) => Held) =>
		onNewest(id, async (piece) => {
			const params = { path: { piece_id: id } };
			const body = { revision: piece.revision, held: make(piece.held) };
			try {
				await answer(api.PATCH('/api/pieces/{piece_id}', { params, body }));
				problem = null;
			} catch (why) {
				problem = problemText(why);
				throw why;
			} finally {
				await load();
			}
		});
	const bin = (id: string) =>
		attempt(async () => {
			binned = await onNewest(id, async (piece) => {
				await answer(
					api.DELETE('/api/pieces/{piece_id}', {
						params: { path: { piece_id: id }, query: { revision: piece.revision } }
					})
				);
				return piece;
			});
			news = null;
			await load();
		});
	const restore = (piece: Piece) =>
		attempt(async () => {
			const path = { piece_id: piece.id };
			await answer(api.POST('/api/pieces/{piece_id}/restore', { params: { path } }));
			binned = null;
			await load();
		});
	async function importTable(files: FileList | null): Promise<void> {
		const file = files?.[0];
		if (!file) return;
		await attempt(async () => {
			const made = await answer(
				api.POST('/api/drawer/table', {
					body: file as unknown as string,
					bodySerializer: (body) => body as unknown as BodyInit,
					headers: { 'Content-Type': 'text/csv' }
				})
			);
			await load();
			news = made.length
				? `${made.length} ${made.length === 1 ? 'piece' : 'pieces'} came in with “${file.name}”.`
				: `Nothing new in “${file.name}”: all of it lies in your drawer already.`;
		});
	}

	const mine = $derived(
		own.filter((p) => p.held.kind === kind && answers(`${p.held.name} ${detail(p.held)}`, wanted))
	);
	const rows = $derived(
		trade
			? tradeRows(trade, kind).filter((r) => answers(`${r.name} ${r.detail} ${r.note}`, wanted))
			: []
	);
	const measuredOnly = $derived(['material', 'coil', 'trap'].includes(kind));
	const one = $derived(kinds.find((k) => k.key === kind)?.one ?? 'piece');
	const count = (k: Kind) => own.filter((p) => p.held.kind === k).length;
</script>

<svelte:head><title>Drawer · Yielding Coil</title></svelte:head>

<Header />
<main class="page">
	<div class="head">
		<h1>Drawer</h1>
		<span class="soft">what you hold, and what the trade sells</span>
		<span class="row tools">
			<a class="button" href="/api/drawer/table" download="drawer.csv">Take it out as a table</a>
			<label class="button"
				>Bring a table in
				<input
					type="file"
					accept=".csv,text/csv"
					class="unseen"
					onchange={(e) => {
						const input = e.currentTarget;
						void importTable(input.files).then(() => (input.value = ''));
					}}
				/></label
			>
		</span>
	</div>
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	{#if news}<Note kind="news">{news}</Note>{/if}
	{#if binned}
		{@const gone = binned}
		<Note kind="news"
			>“{gone.held.name}” is in the bin.{gone.used
				? ` ${gone.used === 1 ? 'A design uses' : `${gone.used} designs use`} it and keeps what it was.`
				: ''}
			<button class="button" onclick={() => restore(gone)}>Take it back</button></Note
		>
	{/if}
	<div class="row" role="group" aria-label="Kind">
		{#each kinds as k (k.key)}
			<button
				class="button"
				class:main={k.key === kind}
				aria-pressed={k.key === kind}
				onclick={() => show(k.key)}>{k.name}{count(k.key) ? ` · ${count(k.key)}` : ''}</button
			>
		{/each}
		<input
			class="written"
			type="search"
			aria-label="Search the drawer"
			placeholder="Search: 240 43"
			bind:value={wanted}
		/>
	</div>
	<section class="sheet" aria-label="Yours">
		<div class="head">
			<h2>Yours</h2>
			{#if buildId && mine.length && becomes[kind]}
				<label class="named inline"
					>What can I make of it, for
					<select bind:value={buildId}>
						{#each builds as build (build.id)}<option value={build.id}>{build.name}</option>{/each}
					</select></label
				>
			{/if}
		</div>
		{#if mine.length}
			<ul>
				{#each mine as piece (piece.id)}
					<li>
						<div class="line">
							<strong>{piece.held.name}</strong>
							<span>{detail(piece.held)}</span>
							<span class="tag {piece.provenance}">{piece.provenance}</span>
							{#if piece.held.count !== null && piece.held.count !== undefined}<span class="mono"
									>× {piece.held.count}</span
								>{/if}
							{#if piece.held.price}<span class="soft">{piece.held.price}</span>{/if}
							{#if piece.used}<span class="soft"
									>in {piece.used} {piece.used === 1 ? 'design' : 'designs'}</span
								>{/if}
							<span class="acts">
								{#if buildId}
									{#each becomes[kind] ?? [] as [words, desk] (words)}
										<a class="plain" href="/builds/{buildId}/{desk(piece.id)}">{words}</a>
									{/each}
								{/if}
								<button
									class="plain"
									aria-expanded={open === piece.id}
									aria-label="Change {piece.held.name}"
									onclick={() => (open = open === piece.id ? null : piece.id)}>change</button
								>
								<button
									class="plain"
									aria-label="Put {piece.held.name} in the bin"
									onclick={() => bin(piece.id)}>bin</button
								>
							</span>
						</div>
						{#if open === piece.id}
							<PieceForm {piece} onchange={(make) => change(piece.id, make)} />
						{/if}
					</li>
				{/each}
			</ul>
		{:else}
			<p class="told soft">
				{wanted
					? `None of your pieces matches “${wanted}”.`
					: measuredOnly
						? `No ${one} of yours yet: it comes from a sweep.`
						: `No ${one} of yours yet: add one from the list below and say how many you hold, what it cost, and what you measured.`}
			</p>
		{/if}
	</section>
	{#if trade && (kind === 'core' || kind === 'capacitor') && !measuring}
		<p class="measure">
			<button class="button" onclick={() => (measuring = true)}
				>{kind === 'core'
					? 'Which ring is this? Measure one you hold'
					: 'Measure one you hold'}</button
			>
		</p>
	{:else if trade && (kind === 'core' || kind === 'material' || kind === 'coil' || kind === 'capacitor' || kind === 'trap')}
		<Characterise
			{kind}
			{trade}
			{own}
			onkept={async (text) => {
				await load();
				news = text;
			}}
		/>
	{/if}
	{#if kind === 'capacitor'}<Combine {own} />{/if}
	{#if !measuredOnly}
		<section class="sheet" aria-label="Trade">
			<h2>What the trade sells, nominal</h2>
			{#if kind === 'core' && trade}
				<details class="told">
					<summary>Where these data come from</summary>{trade.rings_source}
				</details>
			{/if}
			<ul>
				{#each rows.slice(0, shownMost) as row (row.key)}
					<li class="line">
						<strong>{row.name}</strong>
						<span>{row.detail}</span>
						{#if row.note}<small class="soft">{row.note}</small>{/if}
						{#if row.held}
							{@const held = row.held}
							<span class="acts"
								><button
									class="plain"
									aria-label="Add to my drawer: {row.name}"
									onclick={() => add(held)}>Add to my drawer</button
								></span
							>
						{/if}
					</li>
				{/each}
			</ul>
			{#if rows.length > shownMost}
				<p class="told soft">{rows.length - shownMost} more: search by size, mix or word.</p>
			{:else if rows.length === 0 && trade}
				<p class="told soft">Nothing in the tables answers “{wanted}”.</p>
			{/if}
			{#if kind === 'cable'}
				<p class="told">
					A cable of your own comes from two sweeps: <a href="/lines">find out what it is</a>.
				</p>
			{/if}
		</section>
	{/if}
</main>

<style>
	.measure {
		margin-bottom: 14px;
	}
	ul {
		list-style: none;
		padding: 0;
		display: grid;
		gap: 6px;
		font-size: var(--size-13);
	}
	li {
		border-top: 1px solid var(--line);
		padding-top: 5px;
	}
	.line {
		display: flex;
		flex-wrap: wrap;
		gap: 2px 12px;
		align-items: baseline;
	}
	.line strong {
		min-width: 150px;
	}
	.line small {
		flex-basis: 100%;
		order: 9;
	}
	.acts {
		margin-left: auto;
	}
	.tools {
		margin-left: auto;
	}
	.tag {
		font-size: var(--size-12);
		border: 1px solid var(--line);
		border-radius: 10px;
		padding: 0 8px;
	}
	.tag.measured {
		border-color: var(--verdigris);
		color: var(--verdigris);
	}
	label.button:focus-within {
		outline: 3px solid var(--blueprint);
		outline-offset: 2px;
	}
</style>
