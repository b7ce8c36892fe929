using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Core.Carrying.Sources;
using YardRelay.Files.Names;
using YardRelay.Files.Simulated;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>
/// The life of one parcel: an old computer, a depot and a new computer in memory, and all that is done with them and befalls them, drawn
/// from a seed. After each step what was promised is held against what is there.
/// </summary>
internal sealed partial class Life(int seed)
{
    private static readonly DepotPath Parcel = DepotPath.Of("ida");

    // What has no other copy in the parcel.
    private static readonly string[] NotMended = ["yard/parcel.json", "yard/keys"];
    private static readonly AgeIdentity Recovery = AgeIdentity.Create();
    private readonly SimulatedClock _clock = new(new(2026, 3, 2, 8, 0, 0, TimeSpan.Zero));
    private readonly List<string> _story = [];
    private readonly bool _isSealed = seed % 4 == 0;

    // How long the computer that is carried from believes what a server told it, while the person works on another.
    private readonly TimeSpan _remembers = TimeSpan.FromMinutes(seed % 12 is 3 or 4 ? 1 : 0);
    private SimulatedDisk _old = null!, _depot = null!, _new = null!, _second = null!;

    // What the last trip that said it was whole had before it; null: a later one broke off, or none was whole yet.
    private string? _promised;
    private readonly Versions _versions = new();
    private (string Path, byte[] Content)? _damaged;
    private bool _isEnding;

    // Why the last command would not do it.
    private Problem? _refused;
    private int _targets;

    // Whether anything was ever damaged; and whether the last trip said that nothing else is wrong than that such a thing is lost.
    private bool _wasDamaged;

    // Whether damage may be there of which no verification has told yet.
    private bool _isDoubtful;
    private bool _isBeyondHelp;

    // Whether a medium said that it took what it did not: what broke off since may be lost.
    private bool _hasLied;

    /// <summary>What was done, for the message of a test that fails.</summary>
    public string Story => string.Join("\n  ", _story);

    /// <summary>How many times programs were killed, and power was cut.</summary>
    public (int Kills, int Cuts) Ended { get; private set; }

    /// <summary>What two runs of one seed must have in common.</summary>
    public string Trace { get; private set; } = "";

    /// <summary>Lives it to its end.</summary>
    /// <exception cref="BrokenPromiseException">A promise was broken.</exception>
    public void Run(IReadOnlyList<LifeStep> steps)
    {
        (_old, _depot, _new, _second) = (new(_clock) { Identity = "old" }, new(_clock), new(_clock), new(_clock));
        if (LifeStep.FoldsNames(seed)) _depot.Folds = n => NameFold.Form(n).ToUpperInvariant();
        foreach (var root in new[] { _old.At("/home"), _depot.At("/depot"), _new.At("/"), _second.At("/depot") })
            root.TryMake(out _)!.Dispose();
        _depot.Settle();
        _new.Settle();
        _second.Settle();
        foreach (var step in steps) Take(step);
        End(new(1000, Doing.Carry, Ill.None));
        Trace = FormattableString.Invariant($"{Trace}|{_clock.Now:O}|{Seen.Of(_depot.At("/depot/ida/yard")).Length}");
    }

    // Faults are over: within three runs all is as promised.
    private void End(LifeStep last)
    {
        _isEnding = true;
        bool? isWhole = null;
        for (var run = 0; run < 3 && (_promised is null || isWhole != true); run++)
        {
            Carry(last with { Number = last.Number + run });
            isWhole = Verify(last with { Number = last.Number + 10 + run });
        }
        if (_isBeyondHelp) return;
        if (_promised is null) throw new BrokenPromiseException("Three trips without any fault did not bring it all.");
        if (isWhole != true) throw new BrokenPromiseException("A parcel that nobody touched is not whole.");
        Restore(last with { Number = 1020 });
        if (_promised != Seen.Of(_old.At("/home"))) throw new BrokenPromiseException("The source is not what was promised last.");
    }

    private void Take(LifeStep step)
    {
        switch (step.Doing)
        {
            case Doing.Edit:
                var edits = new SourceEdits(_old.At("/home"), step.Chance(seed, "edit"));
                for (var left = step.Chance(seed, "edits").Next(1, 8); left > 0; left--) Note(step, edits.Once());
                _versions.Add(Seen.Contents(_old.At("/home")));
                break;
            case Doing.Wait:
                _clock.Pass(TimeSpan.FromHours(Math.Pow(10, step.Chance(seed, "wait").NextDouble() * 3)));
                Note(step, "wait");
                break;
            case Doing.Carry:
                Carry(step);
                break;
            case Doing.Close:
                Close(step);
                break;
            case Doing.Verify:
                Verify(step);
                break;
            case Doing.Restore:
                Restore(step);
                break;
            case Doing.Damage:
                Damage(step);
                break;
            case Doing.CarryAnother:
                CarryAnother(step);
                break;
            case Doing.Twin:
                Note(step, new SourceEdits(_old.At("/home"), step.Chance(seed, "twin")).Twin());
                _versions.Add(Seen.Contents(_old.At("/home")));
                break;
            case Doing.PutBack:
                Note(step, new SourceEdits(_old.At("/home"), step.Chance(seed, "back")).PutBack());
                _versions.Add(Seen.Contents(_old.At("/home")));
                break;
            case Doing.CopyAgain:
                CopyAgain(step);
                break;
            case Doing.Mend:
                Mend(step);
                break;
            case Doing.LastLook:
                LookOnceMore(step);
                break;
            case Doing.WriteInMemory:
                WriteInMemory(step);
                break;
            default:
                _depot.CutPower(step.Chance(seed, "cut"));
                Ended = (Ended.Kills, Ended.Cuts + 1);
                Note(step, "the power goes");
                break;
        }
    }

    private void Note(LifeStep step, string what) => _story.Add($"{step.Number}: {what}");

    private void Carry(LifeStep step) => Carry(step, isClosing: false);

    private void Carry(LifeStep step, bool isClosing)
    {
        var (before, goesOn) = (Seen.Of(_old.At("/home")), _promised is null);
        var options = new TripOptions
        {
            AtOnce = 4,
            JournalFiles = step.Chance(seed, "journal").Next(1, 12),
            Sealing = _isSealed ? new([Recovery.Recipient], null) : null,
            Keys = new([Recovery]),
            IsClosing = isClosing,
            ReadsAll = IsDamaged && step.Chance(seed, "all").Next(4) == 0,
        };
        // Of what stood a minute before nothing is said but at the last.
        if (!isClosing) _clock.Pass(_remembers);
        Task<Result<TripReport>> MakeTrip(IDepot depot, IWork work) =>
            new Trip(depot, Parcel, options, new(), work).RunAsync(_old.At("/home"), CancellationToken.None);
        var report = Command(step, "carry", MakeTrip);
        if (report is null && _refused is SourceDoubted { Doubt: var doubt })
        {
            options = options with { Answer = new(SourceVerdict.Deleted, doubt.Unlike, "Kit Moss", "Ida tidied up") };
            report = Command(step with { Number = step.Number + 2000 }, "carry after an answer", MakeTrip);
        }
        // At a closing trip the person still works there: what counts is what stands in the end.
        if (isClosing) before = Seen.Of(_old.At("/home"));
        else if (Seen.Of(_old.At("/home")) != before) throw new BrokenPromiseException("A trip changed its source.");
        if (report is not { IsWhole: true })
        {
            _promised = null;
            _isBeyondHelp = _wasDamaged && report is { } lost && lost.Snags.All(s => s.Kind == SnagKind.DamagedInDepot);
            // What was told is nothing that the next verification must find.
            if (report?.Snags.Any(s => s.Kind == SnagKind.DamagedInDepot) ?? false) _damaged = null;
            foreach (var snag in report?.Snags ?? []) Note(step, $"snag {snag.Path}: {snag.Kind}, {snag.Reason}");
            if (report is null && !_wasDamaged && !_hasLied) ProveUnfinished(step);
            return;
        }
        (_promised, _isBeyondHelp) = (before, false);
        _promisedContents = Seen.Contents(_old.At("/home"));
        _versions.Whole(Seen.Contents(_old.At("/home")));
        // What is gone at the source, and another trip brought last without a word, is taken as it lies there.
        if (goesOn) _damaged = null;
        // Damage that no verification told it of stays for the next one to find.
        if (!_isDoubtful) Prove(step, "what a trip called whole");
    }

    private void CarryAnother(LifeStep step)
    {
        // Against what broke off, is damaged, or holds no file there is nothing to hold it.
        if (_promised is null || _isDoubtful || IsDamaged || !_promised.Contains(" File ", StringComparison.Ordinal)) return;
        _clock.Pass(TimeSpan.FromSeconds(1));
        var other = new SimulatedDisk(_clock) { Identity = "other" };
        other.At("/home").TryMake(out _)!.Dispose();
        var edits = new SourceEdits(other.At("/home"), step.Chance(seed, "other"));
        for (var left = step.Chance(seed, "others").Next(3) * 10; left > 0; left--) edits.Once();
        var options = new TripOptions { AtOnce = 4, Keys = new([Recovery]) };
        var before = Seen.Of(_depot.At("/depot/ida/data"));
        var report = Command(
            step, "carry another", (depot, work) => new Trip(depot, Parcel, options, new(), work)
                .RunAsync(other.At("/home"), CancellationToken.None));
        if (report is not null || _refused is not SourceDoubted)
            throw new BrokenPromiseException("Another disk was carried as if it were the same.");
        if (Seen.Of(_depot.At("/depot/ida/data")) != before) throw new BrokenPromiseException("A trip that stopped changed the parcel.");
        Prove(step, "what a trip called whole before another disk was there");
    }

    /// <returns>Whether it was whole; null where nothing was said.</returns>
    private bool? Verify(LifeStep step)
    {
        var report = Command(step, "verify", async (depot, work) =>
        {
            var verification = new Verification(depot, Parcel, 4, new(), work, keys: new([Recovery]));
            var found = await verification.RunAsync(CancellationToken.None);
            if (found.IsOk) await verification.NoteAsync(found.Value, CancellationToken.None);
            return found;
        });
        foreach (var damage in report?.Damages ?? []) Note(step, $"damage {damage}");
        _isDoubtful &= report is not { IsWhole: true };
        if (report is { IsWhole: true } && IsDamaged) throw new BrokenPromiseException("A damaged parcel was found whole.");
        if (report is { IsWhole: false } && _promised is not null && !_wasDamaged && step.Ill == Ill.None)
            throw new BrokenPromiseException("A whole parcel was found damaged.");
        if (report is { IsWhole: false } && IsDamaged) _promised = null;
        return report?.IsWhole;
    }

    private void Restore(LifeStep step)
    {
        var target = $"/t{_targets++}";
        var report = Command(step, "restore", (depot, work) => To(depot, work, _new.At(target)));
        // What was broken off goes on where it stopped.
        for (var again = 1; report is null && again < 3 && (step.Ill == Ill.Kill || step.Ill == Ill.Power); again++)
            report = Command(
                step with { Number = step.Number + (again * 100), Ill = Ill.None }, "go on", (d, w) => To(d, w, _new.At(target)));
        if (report is not { IsWhole: true }) return;
        if (_promised is null) return;
        Same(_promised, Seen.Of(_new.At(target)), "a restore that called itself whole");
        if (step.Chance(seed, "after").Next(2) == 0)
        {
            _new.CutPower(step.Chance(seed, "cut"));
            Ended = (Ended.Kills, Ended.Cuts + 1);
            Same(_promised, Seen.Of(_new.At(target)), "a restore that called itself whole, after the power went");
        }
    }

    private static Task<Result<RestoreReport>> To(IDepot depot, IWork work, TreeRoot target) =>
        new Restore(depot, Parcel, 4, new(), work, LandingPlan.Original, new([Recovery])).RunAsync(target, CancellationToken.None);

    /// <summary>Restores from a copy of the depot, which may have lost its power just now, into a place of its own.</summary>
    private void Prove(LifeStep step, string what, SimulatedDisk? from = null)
    {
        var (depot, target) = ((from ?? _depot).Copy(), new SimulatedDisk(_clock));
        if (step.Chance(seed, "proof").Next(2) == 0) depot.CutPower(step.Chance(seed, "proof cut"));
        target.At("/").TryMake(out _)!.Dispose();
        var work = new SimulatedWork(new(_clock.Now), LifeStep.HashOf($"{seed}|{step.Number}|proof"));
        using var folder = new FolderDepot(depot.At("/depot"), null, work);
        work.Run(() => To(folder, work, target.At("/t")), out var outcome);
        if (!outcome!.IsCompletedSuccessfully) throw new BrokenPromiseException($"Of {what}, nothing can be restored.", outcome.Exception);
        if (!outcome.Result.TryGet(out var report, out var problem))
            throw new BrokenPromiseException($"Of {what}, nothing can be restored: {problem.Message}");
        if (!report.IsWhole)
            throw new BrokenPromiseException(
                $"Of {what}, not all can be restored: " + string.Join("; ", report.Damages.Select(d => d.ToString()).Concat(
                    report.Snags.Select(s => s.ToString()))));
        Same(_promised!, Seen.Of(target.At("/t")), what);
    }

    /// <summary>
    /// The old computer is gone just now, where a trip broke off: restores what there is, from a copy of the depot that may have lost its
    /// power, and changes nothing of it.
    /// </summary>
    private void ProveUnfinished(LifeStep step)
    {
        var (depot, target) = (_depot.Copy(), new SimulatedDisk(_clock));
        if (step.Chance(seed, "loss").Next(2) == 0) depot.CutPower(step.Chance(seed, "loss cut"));
        target.At("/").TryMake(out _)!.Dispose();
        // Nobody holds the parcel any more.
        var work = new SimulatedWork(new(_clock.Now.AddMinutes(2)), LifeStep.HashOf($"{seed}|{step.Number}|loss"));
        using var folder = new FolderDepot(depot.At("/depot"), null, work);
        var before = Seen.Of(depot.At("/depot"));
        work.Run(
            () => new Restore(folder, Parcel, 4, new(), work, LandingPlan.Original, new([Recovery])) { TakesUnfinished = true }
                .RunAsync(target.At("/t"), CancellationToken.None),
            out var outcome);
        if (!outcome!.IsCompletedSuccessfully)
            throw new BrokenPromiseException("A parcel whose last trip broke off cannot be restored.", outcome.Exception);
        if (Seen.Of(depot.At("/depot")) != before) throw new BrokenPromiseException("A restore changed the parcel.");
        if (!outcome.Result.TryGet(out var report, out var problem))
        {
            if (_versions.MayBeNothing) return;
            throw new BrokenPromiseException($"A parcel whose last trip broke off cannot be restored: {problem.Message}");
        }
        Note(step, $"the old computer is lost: {report.Unfinished?.Words ?? "the last trip had ended"} {string.Join("; ", report.Snags)}");
        if (_versions.Wrong(Seen.Contents(target.At("/t")), report).ToList() is { Count: > 0 } wrong)
            throw new BrokenPromiseException("Of a trip that broke off:\n  " + string.Join("\n  ", wrong));
    }

    private static void Same(string wanted, string found, string what)
    {
        if (wanted == found) return;
        var (a, b) = (wanted.Split('\n'), found.Split('\n'));
        throw new BrokenPromiseException(
            $"{what} is not the same:\n  wanted {string.Join("\n  wanted ", a.Except(b))}\n  found "
                + string.Join("\n  found ", b.Except(a)));
    }

    /// <summary>Runs one command as a program of its own; null: it did not end, or ended with a problem.</summary>
    private T? Command<T>(LifeStep step, string name, Func<IDepot, IWork, Task<Result<T>>> what)
        where T : class
    {
        for (var locked = 0; ; locked++)
        {
            _refused = null;
            if (Once(step, name, step.Chance(seed, $"{name} {locked}"), what) is not { } outcome) return null;
            if (outcome.Exception?.InnerException is { } broke)
            {
                Note(step, $"{name} with {step.Ill}: {broke.GetType().Name}, {broke.Message}");
                return broke is IOException ? null : throw new BrokenPromiseException($"{name} ends with a stack trace", broke);
            }
            if (outcome.Result.TryGet(out var value, out _refused))
            {
                Note(step, $"{name} with {step.Ill}: done");
                return value;
            }
            Note(step, $"{name} with {step.Ill}: {_refused.Message}");
            if (_refused is not ParcelLocked || locked == 3) return null;
            _clock.Pass(TimeSpan.FromSeconds(40));
        }
    }

    /// <returns>Its outcome, completed; null: it was killed.</returns>
    private Task<T>? Once<T>(LifeStep step, string name, Random random, Func<IDepot, IWork, Task<T>> what)
    {
        var work = new SimulatedWork(_clock, random.Next());
        var ill = new Misfortune(step.Ill, random, work);
        if (_meanwhile is { } edits) ill.IsTheirs = edits;
        SimulatedDisk[] disks = [_old, _depot, _new, _second];
        foreach (var disk in disks)
        {
            disk.Fails = ill.Of;
            if (step.Ill == Ill.Full) disk.LeaveRoom(random.Next(40_000));
        }
        var isSecond = step.Doing == Doing.CopyAgain;
        if (step.Ill == Ill.Lie) (isSecond ? _second : _depot).Lies = _ => random.Next(2) == 0;
        _hasLied |= step.Ill == Ill.Lie && !isSecond;
        using var depot = new FolderDepot(_depot.At("/depot"), null, work);
        _old.Remembers = _remembers;
        try
        {
            work.Run(() => what(depot, work), out var outcome);
            if (outcome is not null) return outcome;
        }
        finally
        {
            foreach (var disk in disks) (disk.Fails, disk.Bytes, disk.Lies, disk.Remembers) = (null, 1L << 40, null, TimeSpan.Zero);
            Trace += FormattableString.Invariant($"|{step.Number} {ill.Calls} {work.Taken}");
        }
        if (step.Ill == Ill.Power)
            foreach (var disk in disks) disk.CutPower(random);
        Ended = step.Ill == Ill.Power ? (Ended.Kills, Ended.Cuts + 1) : (Ended.Kills + 1, Ended.Cuts);
        Note(step, $"{name}: {step.Ill} at call {ill.Calls}");
        return null;
    }
}
