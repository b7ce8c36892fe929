using System.Reflection;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;

namespace YardRelay.Records;

/// <summary>What of the records is seen: all of them, or only what belongs to swaps at some sites.</summary>
public sealed partial class YardDb
{
    private static readonly MethodInfo OfSwap =
        typeof(YardDb).GetMethod(nameof(SeeOfSwap), BindingFlags.Instance | BindingFlags.NonPublic)!;

    private List<string>? _sites;
    private bool _isUsed;

    /// <summary>Whether it sees swaps of some sites only.</summary>
    public bool IsNarrow => _sites is not null;

    private List<string> SeenSites => _sites ?? [];

    /// <summary>
    /// From now on, swaps at other sites are not there for reading, and with them all that names such a swap; spares at other sites
    /// neither.
    /// </summary>
    /// <exception cref="InvalidOperationException">Something was read already.</exception>
    public void SeeOnly(IReadOnlyList<string> sites)
    {
        if (_isUsed) throw new InvalidOperationException("Something was read before it was said what may be seen.");
        _sites = [.. sites];
    }

    /// <summary>Lets another context see what this one sees.</summary>
    /// <exception cref="InvalidOperationException">The other one has read already.</exception>
    public YardDb LikeThis(YardDb other)
    {
        if (_sites is not null) other.SeeOnly(_sites);
        return other;
    }

    /// <inheritdoc/>
    protected override void OnConfiguring(DbContextOptionsBuilder optionsBuilder) => _isUsed = true;

    private void SeeSome(ModelBuilder model)
    {
        model.Entity<SwapRow>().HasQueryFilter(s => SeenSites.Contains(s.Site));
        model.Entity<SpareRow>().HasQueryFilter(s => SeenSites.Contains(s.Site));
        model.Entity<ExchangeRow>().HasQueryFilter(x => Swaps.Any(s => s.Id == x.Asks) || Swaps.Any(s => s.Id == x.Asked));
        foreach (var row in model.Model.GetEntityTypes().Where(t => t.FindProperty(nameof(OrderRow.Swap)) is not null).ToList())
            OfSwap.MakeGenericMethod(row.ClrType).Invoke(this, [model]);
    }

    private void SeeOfSwap<T>(ModelBuilder model)
        where T : class =>
        model.Entity<T>().HasQueryFilter(row => EF.Property<string?>(row, nameof(OrderRow.Swap)) == null
            || Swaps.Any(s => s.Id == EF.Property<string?>(row, nameof(OrderRow.Swap))));

    /// <summary>A model for those that see all, and one for those that see some: nobody pays for what others may not see.</summary>
    internal sealed class ModelBySight : IModelCacheKeyFactory
    {
        /// <inheritdoc/>
        public object Create(DbContext context, bool designTime) => (context.GetType(), ((YardDb)context).IsNarrow, designTime);
    }
}
