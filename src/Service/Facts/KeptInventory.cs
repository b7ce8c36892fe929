using System.Text.Json;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Records;

namespace YardRelay.Service.Facts;

/// <summary>What a swap's record keeps of the last survey.</summary>
internal sealed record KeptInventory(DateTimeOffset At, Amount Total, SurveyResult Found, SurveyBefore? Before)
{
    public static KeptInventory? Of(CargoRow? cargo) =>
        cargo?.Inventory is { } text ? JsonSerializer.Deserialize<KeptInventory>(text) : null;

    public string Write() => JsonSerializer.Serialize(this);

    public InventorySeen Seen(DateTimeOffset now) =>
        new(
            At, Total, Found.LargestBytes, Found.DiskBytes, Found.FreeBytes, Found.Computer.Places, Found.Computer.Programs,
            Found.Computer.Running, Found.Computer.Remarks(now), Before);
}

/// <summary>A decision as the record keeps it.</summary>
internal sealed record KeptDecision(string Path, string Choice, string Reason, string By, DateTimeOffset At);

/// <summary>What people decided about a swap's files.</summary>
internal sealed record KeptCarryList(IReadOnlyList<KeptDecision> Decisions, IReadOnlyList<string> First)
{
    public static KeptCarryList Of(CargoRow? cargo) =>
        cargo?.CarryList is { } text ? JsonSerializer.Deserialize<KeptCarryList>(text)! : new([], []);

    public string Write() => JsonSerializer.Serialize(this);

    /// <summary>The list that trips go by: what rules say of the computer, and before them what people decided.</summary>
    public Core.Result<CarryList> Over(KeptInventory? inventory) =>
        (inventory is null ? CarryList.Everything : CarryList.Of(inventory.Found.Computer))
        .With([.. Decisions.Select(d => new CarryRule(d.Path, d.Choice == "carry", d.Choice == "carry" ? "" : d.Reason, d.By))], First);

    /// <summary>
    /// The list of a swap. What was decided fits the rules, or it would not have been taken; rules that came later give way.
    /// </summary>
    public static CarryList EffectiveOf(CargoRow? cargo)
    {
        var (kept, inventory) = (Of(cargo), KeptInventory.Of(cargo));
        return kept.Over(inventory).TryGet(out var list, out _)
            ? list
            : kept.Over(null).TryGet(out var decided, out _)
            ? decided
            : CarryList.Everything;
    }

    /// <summary>What the list leaves out of each top folder, as far as the survey tells.</summary>
    public static Dictionary<string, Amount> LeftOutByFolder(
        CarryList list, KeptInventory? inventory, IReadOnlyDictionary<string, Amount> folders)
    {
        var left = new Dictionary<string, Amount>();
        void Add(string path, Amount files)
        {
            var folder = path.IndexOf('/', StringComparison.Ordinal) is > 0 and var slash ? path[..slash] : path.Length == 0 ? "." : path;
            left[folder] = left.GetValueOrDefault(folder) + files;
        }

        var whole = list.Rules.Where(r =>
            !r.Carries
                && folders.ContainsKey(r.Path)
                && !list.Rules.Any(o => o.Carries && o.Path.StartsWith(r.Path + "/", StringComparison.Ordinal)))
            .Select(r => r.Path).ToHashSet();
        foreach (var folder in whole) left[folder] = folders[folder];
        foreach (var place in inventory?.Found.Computer.Places ?? [])
            if (place.Path.Length > 0 && !whole.Contains(place.At.Split('/')[0]) && list.RuleOf(place.At) is { Carries: false })
                Add(place.At, place.Files);
        return left;
    }
}
