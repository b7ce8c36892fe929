using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Digests;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Files.Names;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <summary>The place of a second copy holds another parcel.</summary>
public sealed record OtherParcel(string Depot, string Parcel)
    : Problem(
        "second-copy.other",
        $"'{Parcel}' in {Depot} is another parcel than the one that was carried. Choose another depot for the second copy, or remove what "
            + $"stands there.");

/// <summary>Both depots are one.</summary>
public sealed record SecondCopyIsFirst(string Depot, string Parcel)
    : Problem(
        "second-copy.same",
        $"'{Parcel}' in {Depot} is the first copy itself, by another way. A second copy on the same disk saves nothing: choose another "
            + $"depot.");

/// <summary>The second copy has what the first does not go back to: one of them was put back, or is another.</summary>
public sealed record SecondCopyAhead(string Depot, string First, string Words)
    : Problem(
        "second-copy.ahead",
        $"The second copy in {Depot} is whole, and the first in {First} does not go on from it. {Words} Nothing was copied. If the second "
            + $"is right, bring the first back from it; if the first is, remove the second copy and run this again.");

/// <summary>The place of a second copy does not hold all names of the parcel apart, or as they are.</summary>
public sealed record SecondCopyMixesNames(string Depot, string Words)
    : Problem(
        "second-copy.names",
        $"{Depot} {Words} Nothing was copied. Choose a depot that holds them, or begin a sealed parcel, which keeps names inside.");

/// <summary>What became of a second copy.</summary>
/// <param name="Copied">Brought now; what was there already is not counted.</param>
/// <param name="Lost">Files that the first copy does not give whole, by their path in the bag.</param>
public sealed record CopyReport(string Depot, Amount Copied, IReadOnlyList<string> Lost, double Seconds)
{
    /// <summary>Where what was copied was read back from; null: nothing was.</summary>
    public ReadPlaces? ReadBack { get; init; }

    /// <summary>Whether both are the same.</summary>
    public bool IsWhole => Lost.Count == 0;
}

/// <summary>
/// Keeps a second copy of a parcel in another depot, the same bag file by file, so that one dead disk loses nothing; and mends one copy
/// from the other.
/// </summary>
public sealed class SecondCopy(IDepot first, IDepot second, DepotPath parcel, Odometer progress, IWork work)
{
    private const int MostUnproven = 4000, AtOnce = 4;
    private const long MostUnprovenBytes = 256L << 20;
    private readonly ParcelPaths _paths = new(parcel);
    private readonly ReadTally _tally = new();
    private long _aside;

    /// <summary>
    /// Brings the second copy up to the first. Files before the lists that name them, the tag manifest last, as a trip does. May be killed
    /// and run again.
    /// </summary>
    public async Task<Result<CopyReport>> BringUpAsync(CancellationToken cancel)
    {
        var started = work.Time.GetTimestamp();
        if (await ParcelIdAsync(first, cancel) is not { } id) return new NoParcel(parcel.Text, first.Address);
        if (await DepotTree.ReadAsync(first, _paths.At(ParcelPaths.TagManifest), cancel) is not { } tags)
            return new ParcelUnfinished("The parcel's first trip is not finished. Run the trip again, then copy it.");
        var there = await ParcelIdAsync(second, cancel);
        if (there is not null && there != id) return new OtherParcel(second.Address, parcel.Text);
        if (there is not null && await AheadAsync(cancel) is { } ahead) return ahead;
        if (there is null && await ParcelGround.TakenAsync(second, _paths, cancel) is { } taken) return taken;
        if (await MixedAsync(tags, cancel) is { } mixed) return mixed;
        if (!(await ParcelLock.TakeAsync(second, _paths, work, cancel)).TryGet(out var held, out var locked)) return locked;
        await using (held)
        {
            if (await held.IsAlsoInAsync(first, cancel)) return new SecondCopyIsFirst(second.Address, parcel.Text);
            using (var marker = new TagFile(work))
            {
                marker.WriteText(TripJson.Write(new TripBegun(0, work.Time.GetUtcNow())));
                await marker.MustSaveAsync(second, _paths, ParcelPaths.OpenTrip, cancel);
            }
            var (copied, lost, unproven) = (Amount.None, new List<string>(), new List<Claim>());
            var wanted = Lines(tags);
            var old = await DepotTree.ReadAsync(second, _paths.At(ParcelPaths.TagManifest), cancel) ?? [];
            var had = Lines(old).ToDictionary(l => l.Path, l => l.Sha256);
            // What it is comes first, so that one that breaks off is known for ours.
            if (there is null && wanted.Find(l => l.Path.Text == ParcelPaths.Info) is { Sha256: not null } info)
            {
                await BringAsync(info);
                had[info.Path] = info.Sha256;
            }
            if (had.GetValueOrDefault(DepotPath.Of(ParcelPaths.Manifest)) is null
                || had[DepotPath.Of(ParcelPaths.Manifest)] != wanted.Find(l => l.Path.Text == ParcelPaths.Manifest).Sha256)
                await PayloadAsync();
            // A list that names what is not there would be believed the next time.
            if (lost.Count > 0) await ListWithoutAsync(lost, cancel);
            else foreach (var tag in wanted.Where(w => had.GetValueOrDefault(w.Path) != w.Sha256)) await BringAsync(tag);
            if (lost.Count == 0)
            {
                if (!tags.AsSpan().SequenceEqual(old))
                    await BringAsync(new(
                        Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(tags)),
                        DepotPath.Of(ParcelPaths.TagManifest)));
                foreach (var gone in had.Keys.Where(h => wanted.TrueForAll(w => w.Path != h)))
                    await second.RemoveAsync(_paths.Root.Join(gone), cancel);
            }
            await second.RemoveAsync(_paths.At(ParcelPaths.Doubts), cancel);
            await second.RemoveAsync(_paths.At(ParcelPaths.OpenTrip), cancel);
            await second.RemoveAsync(_paths.At(ParcelPaths.Aside), cancel);
            await second.SettleAsync(cancel);
            return new CopyReport(second.Address, copied, lost, work.Time.GetElapsedTime(started).TotalSeconds)
            {
                ReadBack = _tally.Places
            };

            // All lists are in the order of their paths, so that what differs is found in bounded memory. What is in the way goes first: a
            // file may have become a folder.
            async Task PayloadAsync()
            {
                await using (var wantedNow = ManifestAsync(first, cancel).GetAsyncEnumerator(cancel))
                {
                    var left = await wantedNow.MoveNextAsync();
                    await foreach (var (path, _) in DepotTree.FilesAsync(second, _paths.Data, cancel))
                    {
                        var below = path.Below(_paths.Root);
                        while (left && wantedNow.Current.Path.CompareTo(below) < 0) left = await wantedNow.MoveNextAsync();
                        if (!left || wantedNow.Current.Path != below) await second.RemoveAsync(path, cancel);
                    }
                }
                await using var there = ManifestAsync(second, cancel).GetAsyncEnumerator(cancel);
                await using var listed = DepotTree.FilesAsync(second, _paths.Data, cancel).GetAsyncEnumerator(cancel);
                var (more, found) = (await there.MoveNextAsync(), await listed.MoveNextAsync());
                await foreach (var line in ManifestAsync(first, cancel))
                {
                    while (more && there.Current.Path.CompareTo(line.Path) < 0) more = await there.MoveNextAsync();
                    while (found && listed.Current.Path.Below(_paths.Root).CompareTo(line.Path) < 0) found = await listed.MoveNextAsync();
                    var stands = found && listed.Current.Path.Below(_paths.Root) == line.Path;
                    if (!stands || !more || there.Current.Path != line.Path || there.Current.Sha256 != line.Sha256)
                        await BringAsync(line, second.HasMedium ? unproven : null);
                }
                await ProveAsync();
            }

            async Task BringAsync(ManifestLine line, List<Claim>? later = null)
            {
                progress.Now(line.Path.Text);
                if (await CopyAsync(first, second, line, later, cancel) is { } bytes) copied += Amount.File(bytes);
                else lost.Add(line.Path.Text);
                if (unproven.Count >= MostUnproven || unproven.Sum(c => c.Bytes) >= MostUnprovenBytes) await ProveAsync();
                progress.Done();
            }

            // Many small files at once are brought onto the medium and read back from there.
            async Task ProveAsync()
            {
                if (unproven.Count == 0) return;
                await second.SettleAsync(cancel);
                foreach (var (at, _) in await new Proof(second, _tally, AtOnce, work).FailsAsync(unproven, cancel))
                {
                    copied -= Amount.File(unproven[at].Bytes);
                    lost.Add(unproven[at].Path.Below(_paths.Root).Text);
                }
                unproven.Clear();
            }
        }
    }

    /// <summary>
    /// Lists what the second depot has so far: all but what was lost, and of that the state that it had before. The next time only the rest
    /// is brought.
    /// </summary>
    private async Task ListWithoutAsync(IReadOnlyCollection<string> lost, CancellationToken cancel)
    {
        var missing = lost.ToHashSet(StringComparer.Ordinal);
        using var list = new TagFile(work);
        await using (var before = ManifestAsync(second, cancel).GetAsyncEnumerator(cancel))
        {
            var more = await before.MoveNextAsync();
            await foreach (var line in ManifestAsync(first, cancel))
            {
                while (more && before.Current.Path.CompareTo(line.Path) < 0) more = await before.MoveNextAsync();
                if (!missing.Contains(line.Path.Text)) list.WriteText(line.Text);
                else if (more && before.Current.Path == line.Path && before.Current.Sha256 != line.Sha256)
                    list.WriteText(before.Current.Text);
            }
        }
        await list.MustSaveAsync(second, _paths, ParcelPaths.Manifest, cancel);
    }

    /// <summary>Mends what a verification found in one copy from the other, where that one has it just as the lists say.</summary>
    /// <param name="damages">What was found in the first copy.</param>
    /// <returns>Paths in the bag that were mended; or <see cref="ParcelUnfinished"/> where the first copy's last trip broke off.</returns>
    public async Task<Result<IReadOnlyList<string>>> MendAsync(IReadOnlyList<Damage> damages, CancellationToken cancel)
    {
        var mine = await ParcelIdAsync(first, cancel);
        if (await ParcelIdAsync(second, cancel) is not { } id) return new NoParcel(parcel.Text, second.Address);
        if (mine is not null && mine != id) return new OtherParcel(second.Address, parcel.Text);
        if (!(await ParcelLock.TakeAsync(first, _paths, work, cancel)).TryGet(out var held, out var locked)) return locked;
        await using (held)
        {
            // Its lists are those of a trip that goes on: those of the one before would take its knowledge away.
            if (await DepotTree.HasFileAsync(first, _paths.At(ParcelPaths.OpenTrip), cancel))
                return new ParcelUnfinished(
                    $"Nothing is mended in {first.Address}: the last trip broke off. Run the trip again, then verify. Where the old "
                        + "computer is gone, restore: what is damaged in one copy is named, and the other one can be restored, too.");
            var mended = new List<string>();
            // The list of all lists first: what it says is what the others must be.
            // That of another trip would make the lists and files of this one wrong.
            if (damages.Any(d => d.Path == ParcelPaths.TagManifest)
                && await IsSameTripAsync(cancel)
                && await DepotTree.ReadAsync(second, _paths.At(ParcelPaths.TagManifest), cancel) is { } whole)
                await MendOneAsync(new(
                    Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(whole)), DepotPath.Of(ParcelPaths.TagManifest)));
            var tags = Lines(await DepotTree.ReadAsync(first, _paths.At(ParcelPaths.TagManifest), cancel) ?? []);
            foreach (var damage in damages.Where(d =>
                d.Kind is DamageKind.Missing or DamageKind.Changed && !d.Path.StartsWith("data/", StringComparison.Ordinal))
                .DistinctBy(d => d.Path))
                if (tags.Find(t => t.Path.Text == damage.Path) is { Sha256: not null } tag) await MendOneAsync(tag);
            var payload = damages.Where(d =>
                d.Kind is DamageKind.Missing or DamageKind.Changed && d.Path.StartsWith("data/", StringComparison.Ordinal))
                .Select(d => d.Path)
                .ToHashSet(StringComparer.Ordinal);
            if (payload.Count > 0)
                await foreach (var line in ManifestAsync(first, cancel))
                    if (payload.Contains(line.Path.Text)) await MendOneAsync(line);
            await first.RemoveAsync(_paths.At(ParcelPaths.Aside), cancel);
            // The names under which they stand are on the medium, too, before anyone hears of it.
            if (mended.Count > 0) await first.SettleAsync(cancel);
            return Result<IReadOnlyList<string>>.Of(mended);

            async Task MendOneAsync(ManifestLine line)
            {
                if (await CopyAsync(second, first, line, null, cancel) is not null) mended.Add(line.Path.Text);
            }
        }
    }

    /// <summary>
    /// Where the second copy is whole, the first must be as it is or have gone on from there: an older state never takes the place of a
    /// newer one. What broke off or is damaged is brought up.
    /// </summary>
    private async Task<SecondCopyAhead?> AheadAsync(CancellationToken cancel)
    {
        if (await DepotTree.HasFileAsync(second, _paths.At(ParcelPaths.OpenTrip), cancel)) return null;
        if (await ParcelStates.ReadAsync(second, parcel, cancel) is not { Now: var theirs }) return null;
        var held = ParcelHeld.Against(theirs, await ParcelStates.ReadAsync(first, parcel, cancel));
        if (held.Standing != ParcelStanding.Other) return null;
        var digests = await ListDigests.ReadAsync(second, _paths, cancel);
        foreach (var list in new[] { ParcelPaths.Trips, ParcelPaths.Manifest })
            if (await digests.WrongAsync(second, _paths, list, cancel) is not null) return null;
        return new(second.Address, first.Address, held.Words);
    }

    /// <summary>The parcel's names were made for the first depot; the second may take two of them for one.</summary>
    private async Task<SecondCopyMixesNames?> MixedAsync(byte[] tags, CancellationToken cancel)
    {
        var theirs = await DepotTree.ReadAsync(second, _paths.At(ParcelPaths.TagManifest), cancel) ?? [];
        if (ManifestOf(theirs) is { } there && there == ManifestOf(tags)) return null;
        var (byCase, byForm) = (new SiblingTwins(NameHash.Folded), new SiblingTwins(NameHash.Formed));
        var (inCase, inForm, changing) = (new List<string>(), new List<string>(), new List<string>());
        await foreach (var line in ManifestAsync(first, cancel))
        {
            var path = line.Path.Text;
            if (byCase.IsTwin(path)) inCase.Add(path);
            if (Ascii.IsValid(path)) continue;
            if (byForm.IsTwin(path)) inForm.Add(path);
            if (path.EnumerateRunes().Any(r => !NameFold.IsStable(r))) changing.Add(path);
        }
        // Hardly any parcel has twins, and few have names of the other kind.
        if (inCase.Count + changing.Count == 0) return null;
        var features = await second.ProbeAsync(cancel);
        var twins = features.TellsNames ? [] : features.TellsCase ? inForm : inCase;
        return twins.Count > 0
            ? new(second.Address, $"takes names for one that differ in case or in the form of an accent only: {Some(twins)}.")
            : changing.Count > 0 && !features.KeepsForm
            ? new(second.Address, $"gives names with accents back in another form: {Some(changing)}.")
            : null;

        static string? ManifestOf(byte[] lists) => Lines(lists).Find(l => l.Path.Text == ParcelPaths.Manifest).Sha256;

        static string Some(List<string> names) =>
            string.Join(", ", names.Take(3).Select(n => $"'{n}'")) + (names.Count > 3 ? $" and {names.Count - 3} more" : "");
    }

    private async Task<bool> IsSameTripAsync(CancellationToken cancel) =>
        await DepotTree.ReadAsync(first, _paths.At(ParcelPaths.Trips), cancel) is { } ours
            && await DepotTree.ReadAsync(second, _paths.At(ParcelPaths.Trips), cancel) is { } theirs
            && ours.AsSpan().SequenceEqual(theirs);

    /// <summary>Copies one file where it has the digest that is listed, and reads it back; null where it has not.</summary>
    /// <param name="later">Where small files wait to be read back; null: each is read back here.</param>
    private async Task<long?> CopyAsync(IDepot from, IDepot to, ManifestLine line, List<Claim>? later, CancellationToken cancel)
    {
        if (!(await from.OpenAsync(_paths.Root.Join(line.Path), cancel)).TryGet(out var look, out _)) return null;
        long bytes;
        await using (look)
        {
            var (sha256, length) = await Digest.OfAsync(look, null, cancel);
            if (sha256 != line.Sha256) return null;
            bytes = length;
        }
        var saved = await SaveAsync();
        if (saved is { IsOk: false, Problem: DepotRefused })
        {
            // Of a folder that became a file only empty folders are left, and they stand in its way.
            await to.RemoveAsync(_paths.Root.Join(line.Path), cancel);
            saved = await SaveAsync();
        }
        if (saved is { IsOk: false, Problem: DepotKeptOther }) return null;
        if (!saved.IsOk) throw saved.Problem is DepotFull full ? new DepotFullException(full) : to.Broke(saved.Problem);
        progress.Moved(bytes);
        Claim claim = new(_paths.Root.Join(line.Path), line.Sha256, bytes);
        if (!IsAlone())
        {
            later!.Add(claim);
            return bytes;
        }
        return (await new Proof(to, _tally, 1, work).FailsAsync([claim], cancel)).Count == 0 ? bytes : null;

        bool IsAlone() => later is null || bytes >= Content.LeastToGoOn;

        Task<Result<long>> SaveAsync() =>
            to.SaveAsync(
                _paths.Root.Join(line.Path),
                _paths.At(ParcelPaths.Aside) / $"copy-{Interlocked.Increment(ref _aside)}",
                new(() => work.Wait(() => from.OpenAsync(_paths.Root.Join(line.Path), cancel)).Value, bytes)
                {
                    SettlesFirst = to.HasMedium && IsAlone(),
                    Sha256 = () => line.Sha256
                },
                cancel);
    }

    private async Task<string?> ParcelIdAsync(IDepot depot, CancellationToken cancel)
    {
        try
        {
            return await DepotTree.ReadAsync(depot, _paths.At(ParcelPaths.Info), cancel) is { } text
                ? (string?)JsonNode.Parse(text)?["id"]
                : null;
        }
        catch (Exception wrong) when (wrong is JsonException or InvalidOperationException)
        {
            return null;
        }
    }

    private async IAsyncEnumerable<ManifestLine> ManifestAsync(
        IDepot depot, [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel)
    {
        if (!(await depot.OpenAsync(_paths.At(ParcelPaths.Manifest), cancel)).TryGet(out var stream, out _)) yield break;
        using var lines = new LineReader(stream);
        while (await lines.NextAsync(cancel) is { } bytes)
            if (ManifestLine.TryParse(bytes.Span) is { } line && line.Path.IsIn(DepotPath.Of("data"))) yield return line;
    }

    private static List<ManifestLine> Lines(byte[] text) =>
        [.. Encoding.UTF8.GetString(text).Split('\n').Select(l => ManifestLine.TryParse(Encoding.UTF8.GetBytes(l))).OfType<ManifestLine>()];
}
