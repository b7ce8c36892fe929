using System.Globalization;
using YardRelay.Core;
using YardRelay.Records;

namespace YardRelay.Service.Swaps;

/// <summary>An order in which swaps are listed, page by page; of those that are equal the id decides.</summary>
internal abstract class SwapOrder
{
    private static readonly SwapOrder[] All = [new ByName(), new ByTime(), new ByStation()];

    /// <summary>How a caller asks for it, and what a cursor says that belongs to it.</summary>
    public abstract string Key { get; }

    /// <summary>The order of that key; by name where none is asked for.</summary>
    public static Result<SwapOrder> Read(string? key) =>
        Array.Find(All, o => o.Key == (key is null or "" ? "name" : key)) is { } found
            ? Result<SwapOrder>.Of(found)
            : new SwapOrderUnknown(key!, string.Join(", ", All[..^1].Select(o => o.Key)) + $" or {All[^1].Key}");

    /// <summary>The swaps in this order.</summary>
    public abstract IQueryable<SwapRow> Sorted(IQueryable<SwapRow> swaps);

    /// <summary>Those that come after a place in this order; null where the text is no place in it.</summary>
    /// <param name="place">What <see cref="PlaceOf"/> said of the last one that was listed.</param>
    public abstract IQueryable<SwapRow>? After(IQueryable<SwapRow> swaps, string place, string id);

    /// <summary>Where a swap stands in this order, as text.</summary>
    public abstract string PlaceOf(SwapRow swap);

    private sealed class ByName : SwapOrder
    {
        public override string Key => "name";

        public override IQueryable<SwapRow> Sorted(IQueryable<SwapRow> swaps) => swaps.OrderBy(s => s.Name).ThenBy(s => s.Id);

        public override IQueryable<SwapRow> After(IQueryable<SwapRow> swaps, string place, string id) =>
            swaps.Where(s => s.Name.CompareTo(place) > 0 || (s.Name == place && s.Id.CompareTo(id) > 0));

        public override string PlaceOf(SwapRow swap) => swap.Name;
    }

    private sealed class ByTime : SwapOrder
    {
        // Swaps without an appointment come last, in both databases.
        private static readonly DateTimeOffset Late = DateTimeOffset.MaxValue.AddYears(-1);

        public override string Key => "time";

        public override IQueryable<SwapRow> Sorted(IQueryable<SwapRow> swaps)
        {
            var late = Late;
            return swaps.OrderBy(s => s.Start ?? late).ThenBy(s => s.Id);
        }

        public override IQueryable<SwapRow>? After(IQueryable<SwapRow> swaps, string place, string id)
        {
            if (!long.TryParse(place, CultureInfo.InvariantCulture, out var ticks) || ticks < 0 || ticks > Late.UtcTicks) return null;
            var (late, at) = (Late, new DateTimeOffset(ticks, TimeSpan.Zero));
            return swaps.Where(s => (s.Start ?? late) > at || ((s.Start ?? late) == at && s.Id.CompareTo(id) > 0));
        }

        public override string PlaceOf(SwapRow swap) => (swap.Start ?? Late).UtcTicks.ToString(CultureInfo.InvariantCulture);
    }

    private sealed class ByStation : SwapOrder
    {
        public override string Key => "station";

        public override IQueryable<SwapRow> Sorted(IQueryable<SwapRow> swaps) => swaps.OrderBy(s => s.Next).ThenBy(s => s.Id);

        public override IQueryable<SwapRow>? After(IQueryable<SwapRow> swaps, string place, string id) =>
            int.TryParse(place, CultureInfo.InvariantCulture, out var index)
                ? swaps.Where(s => s.Next > index || (s.Next == index && s.Id.CompareTo(id) > 0))
                : null;

        public override string PlaceOf(SwapRow swap) => swap.Next.ToString(CultureInfo.InvariantCulture);
    }
}
