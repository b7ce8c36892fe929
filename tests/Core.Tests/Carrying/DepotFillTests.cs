using CsCheck;
using YardRelay.Core.Carrying;

namespace YardRelay.Core.Tests;

public sealed class DepotFillTests
{
    private static Gen<long?> Bytes => Gen.Select(Gen.Bool, Gen.Long[0, 1000], (known, bytes) => known ? bytes : (long?)null);

    [Fact]
    public void What_is_free_is_never_more_than_either_leaves_and_what_is_promised_fits_or_it_is_full() =>
        Gen.Select(Gen.Long[0, 1000], Gen.Long[0, 1000], Bytes, Bytes).Sample((lies, promised, capacity, says) =>
        {
            var fill = new DepotFill(lies, promised, capacity, says);
            if (capacity is null && says is null)
            {
                (fill.FreeBytes, fill.State).ShouldBe((null, DepotFillState.Unknown));
                return;
            }
            var free = fill.FreeBytes.ShouldNotBeNull();
            free.ShouldBeGreaterThanOrEqualTo(0);
            if (says is { } most) free.ShouldBeLessThanOrEqualTo(most);
            if (capacity is { } bound) (free + lies).ShouldBeLessThanOrEqualTo(Math.Max(bound, lies));
            (fill.State == DepotFillState.Full).ShouldBe(free == 0 || free < promised);
            if (fill.State == DepotFillState.Roomy) (free - promised).ShouldBeGreaterThanOrEqualTo((free + lies) / 10);
        });
}
