using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Core.Carrying.Sources;
using YardRelay.Files;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>A source, a depot and a target in one temporary folder.</summary>
internal sealed class Given : IDisposable
{
    private readonly TempFolder _folder = new();

    public Given()
    {
        Source = _folder.Make("source");
        _folder.Make("depot");
        Depot = new FolderDepot(TreeRoot.Here(_folder["depot"]));
        Keys = new([], null, _folder["keys"]);
    }

    public string Source { get; }

    public string Target => _folder["target"];

    public string Bag => Path.Combine(_folder["depot"], "ida");

    public string this[string name] => _folder[name];

    /// <summary>What lies in a file, as bytes that are only passing.</summary>
    public static Temporary Passing(string file)
    {
        var passing = ThreadWork.Here.Temporary();
        using (var from = File.OpenRead(file)) from.CopyTo(passing.Into);
        return passing;
    }

    public IDepot Depot { get; set; }

    public LandingPlan Landing { get; set; } = LandingPlan.Original;

    public bool TakesUnfinished { get; set; }

    public async Task<LandingForeseen> ForeseeAsync() =>
        (await new LandingPreview(Depot, Parcel, new(), ThreadWork.Here, Landing, Keys) { TakesUnfinished = TakesUnfinished }
            .RunAsync(TreeRoot.Here(Target), TestContext.Current.CancellationToken)).Value;

    /// <summary>Seals new parcels to <see cref="Recovery"/>.</summary>
    public bool Seals { get; set; }

    public AgeIdentity Recovery { get; } = AgeIdentity.Create();

    /// <summary>Keys at hand; by default those that this computer keeps.</summary>
    public SealKeys Keys { get; set; }

    public bool ReadsAll { get; set; }

    public bool ByNeed { get; set; }

    public bool IsClosing { get; init; }

    public CarryList CarryList { get; set; } = CarryList.Everything;

    public PlaceRules? Places { get; init; }

    public string? SourceLabel { get; init; }

    public static readonly DepotPath Parcel = DepotPath.Of("ida");

    public void Write(string name, string text)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(Path.Combine(Source, name))!);
        File.WriteAllText(Path.Combine(Source, name), text);
    }

    public async Task<TripReport> CarryAsync() => (await TryCarryAsync()).Value;

    /// <summary>Whether somebody says of every doubt that what is gone was deleted: of a tree that chance may empty.</summary>
    public bool Answers { get; init; }

    public async Task<Result<TripReport>> TryCarryAsync()
    {
        var carried = await TryCarryAsync(null);
        return Answers && !carried.IsOk && carried.Problem is SourceDoubted { Doubt.Unlike: var unlike }
            ? await TryCarryAsync(new SourceAnswer(SourceVerdict.Deleted, unlike, "Kit Moss", "chance did"))
            : carried;
    }

    private Task<Result<TripReport>> TryCarryAsync(SourceAnswer? answer) =>
        new Trip(
            Depot,
            Parcel,
            new()
            {
                Answer = answer,
                JournalFiles = 3,
                CarryList = CarryList,
                Places = Places,
                SourceLabel = SourceLabel,
                ReadsAll = ReadsAll,
                ByNeed = ByNeed,
                IsClosing = IsClosing,
                Keys = Keys,
                Sealing = Seals ? new([Recovery.Recipient], null) : null
            },
            new(),
            ThreadWork.Here)
            .RunAsync(TreeRoot.Here(Source), TestContext.Current.CancellationToken);

    public async Task<VerifyReport> VerifyAsync() =>
        (await new Verification(Depot, Parcel, 4, new(), ThreadWork.Here, keys: Keys)
            .RunAsync(TestContext.Current.CancellationToken)).Value;

    public async Task<RestoreReport> RestoreAsync() => (await TryRestoreAsync()).Value;

    public Task<Result<RestoreReport>> TryRestoreAsync(string? to = null) =>
        new Restore(Depot, Parcel, 4, new(), ThreadWork.Here, Landing, Keys) { TakesUnfinished = TakesUnfinished }
            .RunAsync(TreeRoot.Here(to ?? Target), TestContext.Current.CancellationToken);

    public void Dispose()
    {
        Depot.Dispose();
        _folder.Dispose();
    }
}
