using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Tests.Trips;

/// <content>The second copy of a parcel, and the last look at its source.</content>
internal sealed partial class Life
{
    // What stood at the old computer when the last trip called itself whole.
    private IReadOnlyDictionary<string, string>? _promisedContents;

    private FolderDepot Second(IWork work) => new(_second.At("/depot"), null, work);

    private void CopyAgain(LifeStep step)
    {
        var report = Command(step, "second copy", async (depot, work) =>
        {
            using var second = Second(work);
            return await new SecondCopy(depot, second, Parcel, new(), work).BringUpAsync(CancellationToken.None);
        });
        if (report is { IsWhole: true } && _promised is not null && !_isDoubtful && !_hasLied)
            Prove(step, "a second copy that called itself whole", _second);
    }

    private void Mend(LifeStep step)
    {
        var report = Command(step, "mend", async (depot, work) =>
        {
            using var second = Second(work);
            Verification Verifying() => new(depot, Parcel, 4, new(), work, keys: new([Recovery]));
            var brought = await new TwoCopies(depot, second, Parcel, new(), work).BringFirstUpAsync(false, CancellationToken.None);
            if (!brought.IsOk) return Result<VerifyReport>.Failed(brought.Problems);
            var found = await Verifying().RunAsync(CancellationToken.None);
            if (!found.TryGet(out var damaged, out _) || damaged.IsWhole) return found;
            var mended = await new SecondCopy(depot, second, Parcel, new(), work).MendAsync(damaged.Damages, CancellationToken.None);
            if (!mended.IsOk) return Result<VerifyReport>.Failed(mended.Problems);
            var verification = Verifying();
            var after = await verification.RunAsync(CancellationToken.None);
            if (after.IsOk) await verification.NoteAsync(after.Value, CancellationToken.None);
            return after;
        });
        foreach (var damage in report?.Damages ?? []) Note(step, $"damage {damage}");
        if (report is not { IsWhole: true }) return;
        if (IsDamaged) throw new BrokenPromiseException("A damaged parcel was found whole.");
        _isDoubtful = false;
        if (_promised is not null) Prove(step, "a mended parcel that called itself whole");
    }

    private void LookOnceMore(LifeStep step)
    {
        var report = Command(step, "last look", (depot, work) =>
            new LastLook(depot, Parcel, CarryList.Everything, new([Recovery]), new(), work)
                .RunAsync(_old.At("/home"), CancellationToken.None));
        if (report is not { IsSame: true } || _promised is null) return;
        var now = Seen.Contents(_old.At("/home"));
        if (now.Count != _promisedContents!.Count || now.Any(f => _promisedContents.GetValueOrDefault(f.Key) != f.Value))
            throw new BrokenPromiseException("Something changed at the old computer, and a last look found it as its last trip left it.");
    }
}
