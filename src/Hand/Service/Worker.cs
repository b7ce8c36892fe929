using YardRelay.Carriage.Checks;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Limited;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trips;
using YardRelay.Client;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Core.Carrying.Landings;

namespace YardRelay.Hand.Service;

/// <summary>A hand at work for the service: takes orders, does them, reports numbered batches that also renew the lease.</summary>
internal sealed class Worker(HandState state, string folder, Power power, string powerFolder, TextWriter say, TimeProvider time)
    : IDisposable
{
    private static readonly TimeSpan ReportEvery = TimeSpan.FromSeconds(1);
    private readonly YardClient _client = new(new(state.Service), state.Token);

    /// <summary>Works until told to stop, or until there was no order for so long.</summary>
    public async Task<int> RunAsync(TimeSpan? idle, CancellationToken cancel)
    {
        var lastWork = time.GetTimestamp();
        var wait = TimeSpan.FromSeconds(1);
        while (!cancel.IsCancellationRequested)
        {
            try
            {
                var poll = idle is { } most ? Math.Clamp((int)(most - time.GetElapsedTime(lastWork)).TotalSeconds, 0, 25) : 25;
                var taken = await _client.TakeOrderAsync(poll, cancel);
                wait = TimeSpan.FromSeconds(1);
                if (!taken.TryGet(out var order, out var refused) && refused is not null)
                {
                    say.WriteLine($"{state.Tag}: {refused.Message}");
                    if (refused is Refused { Status: 401 or 403 }) return Verbs.ExitCodes.Unreachable;
                    await Task.Delay(wait, time, cancel);
                    continue;
                }
                if (order is not null)
                {
                    if (order.Beside == true) await Beside.DoAsync(order, folder, powerFolder, say, cancel);
                    else await DoAsync(order, cancel);
                    lastWork = time.GetTimestamp();
                }
                else if (idle is { } limit && time.GetElapsedTime(lastWork) >= limit) return Verbs.ExitCodes.AllAccounted;
            }
            catch (ServiceUnreachableException gone)
            {
                say.WriteLine($"{state.Tag}: {gone.Message} Trying again in {wait.TotalSeconds:0} s.");
                await Task.Delay(wait, time, cancel);
                wait = TimeSpan.FromSeconds(Math.Min(60, wait.TotalSeconds * 2));
            }
        }
        return Verbs.ExitCodes.AllAccounted;
    }

    /// <summary>Does one order, to its end or until it went on elsewhere.</summary>
    public async Task DoAsync(OrderTaken order, CancellationToken cancel)
    {
        say.WriteLine($"{state.Tag}: {order.Kind} begins{(order.Attempt > 1 ? $" (attempt {order.Attempt})" : "")}");
        var odometer = new Odometer();
        var (share, waits) = (order.BytesPerSecond, Waits());
        var gate = new RateGate(time) { BytesPerSecond = waits is null ? share : 0 };
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        var number = 1;
        var work = Task.Run(() => WorkAsync(order, odometer, gate, stop.Token), CancellationToken.None);
        var (lastBytes, lastAt) = (0L, time.GetTimestamp());
        while (await Task.WhenAny(work, Task.Delay(ReportEvery, time, cancel)) != work)
        {
            cancel.ThrowIfCancellationRequested();
            var bytes = odometer.Bytes;
            var rate = (long)((bytes - lastBytes) / Math.Max(0.1, time.GetElapsedTime(lastAt).TotalSeconds));
            (lastBytes, lastAt) = (bytes, time.GetTimestamp());
            if (Waits() is var now && now != waits)
                say.WriteLine(
                    $"{state.Tag}: {order.Kind} {((waits = now) is null ? "goes on" : $"waits: the computer runs on its {now}")}");
            var goesOn = await ReportAsync(new(
                order.Attempt, time.GetUtcNow(), Progress(odometer, Math.Max(0, rate)) with { Waits = waits }, null));
            gate.BytesPerSecond = waits is null ? share : 0;
            if (goesOn) continue;
            // The order went on elsewhere: two hands must not write to one parcel.
            await stop.CancelAsync();
            await ((Task)work).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            say.WriteLine($"{state.Tag}: {order.Kind} stopped, the order went on elsewhere");
            return;
        }
        if (work.IsCanceled) return;
        var result = await work;
        await ReportAsync(new(order.Attempt, time.GetUtcNow(), Progress(odometer, 0), result));
        say.WriteLine(
            $"{state.Tag}: {order.Kind} "
                + $"{(result.Failure is { } why
                    ? "failed: " + why
                    : result.IsWhole
                    ? "done, all accounted for"
                    : $"done, {result.Snags.Count} snags, {result.Damages} damages")}");

        string? Waits() => order.Beside == true && power.IsOnBattery ? "battery" : null;

        async Task<bool> ReportAsync(OrderReport report)
        {
            while (true)
            {
                try
                {
                    var taken = await _client.ReportAsync(order.Id, number, report, cancel);
                    if (taken.IsOk)
                    {
                        number = taken.Value.Next;
                        if (report.Result is null) share = taken.Value.BytesPerSecond;
                        return true;
                    }
                    return taken.Problem is not Refused { Status: 401 or 403 or 404 or 409 };
                }
                catch (ServiceUnreachableException) when (report.Result is null)
                {
                    // Progress can be missed; the work goes on while the service is away.
                    return true;
                }
                catch (ServiceUnreachableException gone)
                {
                    say.WriteLine($"{state.Tag}: {gone.Message} The result is kept; trying again.");
                    await Task.Delay(TimeSpan.FromSeconds(3), time, cancel);
                }
            }
        }
    }

    private static OrderProgress Progress(Odometer odometer, long rate) =>
        new(odometer.Files, odometer.TotalFiles, odometer.Bytes, odometer.TotalBytes, rate, odometer.FirstIsThere ? true : null);

    private async Task<OrderResult> WorkAsync(OrderTaken order, Odometer odometer, RateGate gate, CancellationToken cancel)
    {
        try
        {
            if (order.Kind is "survey" or "survey-new")
            {
                var rules = order.PlaceRules is { } own ? PlaceRules.Read(own) : Result<PlaceRules>.Of(PlaceRules.Standard);
                if (!rules.IsOk) return Failed(string.Join(' ', rules.Problems.Select(p => p.Message)));
                var found = new Survey(odometer, time).Run(
                    state.Root, cancel, order.PlaceRules is null ? null : PlaceRules.Standard.With(rules.Value));
                return found.TryGet(out var inventory, out var wrong)
                    ? new(
                        inventory.Snags.Count == 0,
                        [.. inventory.Folders.Select(f => new FolderResult(f.Folder, f.Files, default, default))],
                        inventory.Snags,
                        0,
                        0,
                        null,
                        new(inventory.Computer, inventory.LargestBytes, inventory.DiskBytes, inventory.FreeBytes))
                    : Failed(wrong.Message);
            }
            if (order.Kind == "folders")
                return new FolderTree(odometer).Run(state.Root, cancel).TryGet(out var tree, out var shut)
                    ? new(true, [], [], 0, 0, null, Tree: tree.Folders, Deeper: tree.Deeper)
                    : Failed(shut.Message);
            if (order.Depot is null || order.Parcel is null) return Failed("The order names no depot.");
            var at = order.Depot.StartsWith('/') && Uri.TryCreate(new Uri(state.Service), order.Depot, out var builtIn)
                ? builtIn.AbsoluteUri
                : order.Depot;
            var access = order.Access is { } given ? new DepotAccess(given.User, given.Password, given.PrivateKey, given.HostKey) : null;
            if (!Verbs.VerbRun.Open(at, order.Parcel, access).TryGet(out var opened, out var problem)) return Failed(problem.Message);
            var place = (Depot: new LimitedDepot(opened.Depot, gate), opened.Parcel);
            using (place.Depot)
            {
                if (order.ParcelId is { } id
                    && await new ParcelOpening(place.Depot, place.Parcel, SealKeys.None, time).OtherThanAsync(id, cancel) is { } other)
                    return Failed(other.Message);
                var list = order.CarryList is null ? Result<CarryList>.Of(CarryList.Everything) : CarryList.Read(order.CarryList);
                if (!list.IsOk) return Failed(list.Problem.Message);
                var done = await WorkAsync(order, place.Depot, place.Parcel, list.Value, odometer, cancel);
                return done with { DepotFreeBytes = await FreeAsync(place.Depot, cancel) };
            }
        }
        catch (Exception broke)
            when (broke is DepotUnreachableException or DepotFullException or IOException or UnauthorizedAccessException)
        {
            return Failed(broke.Message) with
            {
                DepotTrouble = broke is DepotUnreachableException or DepotFullException ? broke.Message : null,
                DepotFreeBytes = broke is DepotFullException ? 0 : null
            };
        }
    }

    private static async Task<long?> FreeAsync(IDepot depot, CancellationToken cancel)
    {
        try
        {
            return (await depot.RoomAsync(cancel)).FreeBytes;
        }
        catch (IOException)
        {
            return null;
        }
    }

    private async Task<OrderResult> WorkAsync(
        OrderTaken order, IDepot depot, DepotPath parcel, CarryList list, Odometer odometer, CancellationToken cancel)
    {
        var kind = order.Kind;
        var keys = new SealKeys(
            order.ParcelKey is { } given && AgeIdentity.TryParseFile(given) is { } own ? own : [],
            null,
            SealKeys.UsualFolder,
            order.ParcelKey);
        var recipients = (order.SealTo ?? []).Select(AgeRecipient.TryParse).OfType<AgeRecipient>().ToList();
        if (recipients.Count != (order.SealTo?.Count ?? 0))
            return Failed("The order names a recipient that is mistyped. Correct the depot, and order again.");
        var options = new TripOptions
        {
            CarryList = list,
            Keys = keys,
            Sealing = recipients.Count > 0 ? new(recipients, null) : null,
            ByNeed = order.ByNeed == true
        };
        var landing = order.Landing is { } wanted ? LandingOf(wanted, order.Only ?? []) : Result<LandingPlan>.Of(LandingPlan.Original);
        if (!landing.IsOk) return Failed(string.Join(' ', landing.Problems.Select(p => p.Message)));
        switch (kind)
        {
            case "first-trip" or "top-up-trip" or "closing-trip":
                // Before the first one it is said at once, and in whole sentences, what would stop it halfway.
                if (kind == "first-trip"
                    && await new WillItGo(depot, parcel, list, new(), time, keys).RunAsync(state.Root, cancel) is { IsOk: true } look
                    && look.Value.Findings.Where(f => f.Sign == Sign.Stop && !(options.ByNeed && f.IsRoom))
                        .Select(f => f.Words).ToList() is { Count: > 0 } stops)
                    return Failed(string.Join(' ', stops)
                        + (look.Value.Findings.All(f => f.Sign != Sign.Stop || f.IsRoom)
                            ? " Or order the trip by need: then what is needed first comes as far as it fits, and the rest is named."
                            : ""));
                var trip = await new Trip(depot, parcel, options, odometer, time).RunAsync(state.Root, cancel);
                if (!trip.TryGet(out var carried, out var refused)) return Failed(refused.Message);
                var phrased = order.Passphrase is { } phrase
                    && await new ParcelOpening(depot, parcel, keys with { Own = carried.ParcelKey ?? order.ParcelKey }, time)
                        .AddAsync(new([], phrase), cancel) is { IsOk: true };
                return new(
                    carried.IsWhole, [.. carried.Folders.Select(f => new FolderResult(f.Folder, f.Seen, f.Carried, f.Open, f.LeftOut))],
                    carried.Snags, 0, carried.Trip, null, null,
                    [.. (carried.Reasons ?? []).Select(r => new StayedBehind("", r.Files, r.Reason, null))], null, carried.ParcelKey,
                    carried.ParcelId, PassphraseSet: phrased ? true : null);
            case "verify":
                var verification = new Verification(depot, parcel, options.AtOnce, odometer, time, keys: keys);
                var verified = await verification.RunAsync(cancel);
                if (verified.IsOk) await verification.NoteAsync(verified.Value, cancel);
                return verified.TryGet(out var whole, out var missing)
                    ? new(whole.IsWhole, [], [], (int)Math.Min(int.MaxValue, whole.DamageCount), 0, null)
                    : Failed(missing.Message);
            case "second-copy":
                return await CopyAsync(order, depot, parcel, keys, options.AtOnce, odometer, cancel);
            case "look":
                var looked = await new LandingPreview(depot, parcel, odometer, time, landing.Value, keys).RunAsync(state.Root, cancel);
                return looked.TryGet(out var seen, out var blind)
                    ? new(
                        seen.Fits, [], [], 0, 0, null, null, null,
                        new(
                            time.GetUtcNow(),
                            [.. seen.Folders.Select(f =>
                                new ForeseenFolder(f.Folder, f.To, f.New, f.Stands, f.Beside, f.Replaced, f.Stayed))],
                            seen.NeedsBytes,
                            seen.FreeBytes,
                            seen.NotInParcel))
                    : Failed(blind.Message);
            case "adopt":
                if (order.Folder is null || DepotPath.TryParse(order.Folder) is not { } folder) return Failed("The order names no folder.");
                var adopted = await new Adoption(depot, parcel, options.AtOnce, odometer, time).RunAsync(folder, state.Root, cancel);
                return adopted.TryGet(out var taken, out var unfit) ? Adopted(taken) : Failed(unfit.Message);
            case "purge":
                var purged = await new Purge(depot, parcel, time, keys).RunAsync(parcel.Text, cancel);
                if (!purged.IsOk && purged.Problem is NoParcel) return new(true, [], [], 0, 0, null);
                return purged.TryGet(out var gone, out var kept)
                    ? new(gone.Left.Count == 0, [new(".", gone.Removed, gone.Removed, default)], [], gone.Left.Count, 0, null)
                    : Failed(kept.Message);
            case "restore" or "part-restore":
                var restored = await new Restore(depot, parcel, options.AtOnce, odometer, time, landing.Value, keys)
                    .RunAsync(state.Root, cancel);
                return restored.TryGet(out var landed, out var unable)
                    ? new(landed.IsWhole, [.. landed.Folders.Select(f =>
                        new FolderResult(f.Folder, f.InDepot, f.Restored + f.Stood + f.Beside + f.Stayed, f.Open))],
                        [
                            .. landed.Snags,
                            .. landed.Damages.Select(d => new Snag(
                                d.Path.StartsWith("data/", StringComparison.Ordinal) ? d.Path[5..] : d.Path,
                                SnagKind.DamagedInDepot,
                                0,
                                d.Reason))
                        ],
                        landed.Damages.Count,
                        0,
                        null)
                    : Failed(unable.Message);
            default:
                return Failed($"This hand does not know the order '{kind}'. Use a newer yardhand.");
        }
    }

    private static Result<LandingPlan> LandingOf(LandingWanted plan, IReadOnlyList<string> only)
    {
        static ClashRule? Rule(string text) => Enum.TryParse<ClashRule>(text, true, out var rule) ? rule : null;
        if (Rule(plan.Clash) is not { } clash || plan.Clashes.Any(c => Rule(c.Rule) is null))
            return new Problem("landing.clash", "The landing plan has a clash rule that this hand does not know. Use a newer yardhand.");
        return LandingPlan.Create(
            [.. plan.Accounts.Select(m => new Landing(m.From, m.To, true)), .. plan.Folders.Select(m => new Landing(m.From, m.To))],
            only,
            plan.First,
            clash,
            [.. plan.Clashes.Select(c => new FolderClash(c.Folder, Rule(c.Rule)!.Value))]);
    }

    private static OrderResult Adopted(AdoptReport report)
    {
        var folders = report.Folders ?? [];
        long There(Func<FolderAdopted, Amount> of) => folders.Sum(f => of(f).Files);
        var deep = report.TooDeep.Count == 0
            ? ""
            : $" One folder too deep: {string.Join(", ", report.TooDeep.Take(5).Select(d => $"{d.Folder} ({d.Files.Files:#,0})"))}.";
        var words =
            $"{ByteText.Files(report.Taken.Files)} taken in: {There(f => f.There):#,0} as at the old computer, "
                + $"{There(f => f.Differs):#,0} differ, {There(f => f.Missing):#,0} are missing, {There(f => f.Extra):#,0} are only here."
                + $"{deep}";
        return new(
            report.IsWhole,
            [.. folders.Select(f => new FolderResult(f.Folder, f.There + f.Differs + f.Missing, f.There, f.Differs + f.Missing))],
            report.Snags,
            0,
            1,
            null,
            Words: words);
    }

    private async Task<OrderResult> CopyAsync(
        OrderTaken order, IDepot depot, DepotPath parcel, SealKeys keys, int atOnce, Odometer odometer, CancellationToken cancel)
    {
        if (order.Second is not { } other) return Failed("The order names no depot for the second copy.");
        var access = other.Access is { } given ? new DepotAccess(given.User, given.Password, given.PrivateKey, given.HostKey) : null;
        if (!Verbs.VerbRun.Open(other.Address, parcel.Text, access).TryGet(out var opened, out var problem)) return Failed(problem.Message);
        using var second = opened.Depot;
        if (!(await new SecondCopy(depot, second, parcel, odometer, time).BringUpAsync(cancel)).TryGet(out var copied, out var refused))
            return Failed(refused.Message);
        // A copy that nobody has read is not yet one.
        if (!(await new Verification(second, parcel, atOnce, odometer, time, keys: keys).RunAsync(cancel))
            .TryGet(out var read, out var missing))
            return Failed(missing.Message);
        return new(
            copied.IsWhole && read.IsWhole,
            [],
            [],
            (int)Math.Min(int.MaxValue, copied.Lost.Count + read.DamageCount),
            0,
            null,
            Words: $"The second copy in {copied.Depot} is whole and was read back, {ByteText.Of(copied.Copied.Bytes)} new in it");
    }

    private static OrderResult Failed(string why) => new(false, [], [], 0, 0, why);

    public void Dispose() => _client.Dispose();
}
