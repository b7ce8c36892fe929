using System.Text;
using YardRelay.Carriage.Depots;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Checks;

/// <summary>What a depot turned out to be, by writing to it and reading back.</summary>
/// <param name="RoundTripMilliseconds">Median of some small requests.</param>
/// <param name="BytesPerSecond">Of one file of some megabytes, written and read back.</param>
/// <param name="Features">What it can, by what it gave back.</param>
/// <param name="LongestNameBytes">Longest name that it held, in bytes of UTF-8; 255 is as many as are tried.</param>
/// <param name="RenamesOver">A save takes the place of an earlier one.</param>
/// <param name="NamesNotHeld">Characters that it will not hold, or holds as something else.</param>
public sealed record DepotProbed(
    string Address, double RoundTripMilliseconds, double BytesPerSecond, DepotRoom Room, DepotFeatures Features, int LongestNameBytes,
    bool RenamesOver, string NamesNotHeld);

/// <summary>Finds out what a depot can hold; trusts nothing that it says, only what it gives back. Leaves nothing behind.</summary>
public static class DepotProbe
{
    private const int Megabytes = 4;
    private const string Odd = "\"*:<>?\\|%#&+;= '";

    /// <summary>Who may reach what is staged, in words.</summary>
    /// <param name="modes">What came back of the modes that the depot is set to; null: none can be set from here.</param>
    public static string WhoReaches(DepotModes? modes) => modes switch
    {
        DepotModes.Private => "the account that stages it, and nobody else on the depot's system",
        DepotModes.Group => "the account that stages it, and the group of the folder",
        DepotModes.AsMounted => "whoever may as the share is mounted: no permissions are set there, or none stay",
        _ => "whoever its server lets in",
    };

    /// <summary>Probes.</summary>
    /// <exception cref="DepotUnreachableException">It is not there, or may not be written to.</exception>
    public static async Task<DepotProbed> RunAsync(IDepot depot, IWork work, CancellationToken cancel)
    {
        var features = await depot.ProbeAsync(cancel);
        var folder = ProbeFolder.New(work.NewId());
        try
        {
            await depot.MakeFoldersAsync(folder, cancel);
            var times = new List<double>();
            for (var i = 0; i < 5; i++)
            {
                var began = work.Time.GetTimestamp();
                await depot.ListAsync(folder, cancel);
                times.Add(work.Time.GetElapsedTime(began).TotalMilliseconds);
            }
            var notHeld = new StringBuilder();
            foreach (var odd in Odd)
                if (!await HoldsAsync($"a{odd}b")) notHeld.Append(odd);
            if (!await HoldsAsync("end.")) notHeld.Append(" final-dot");
            var longest = 0;
            foreach (var length in new[] { 255, 240, 200, 143, 128, 100, 64 })
                if (await HoldsAsync(new string('n', length)))
                {
                    longest = length;
                    break;
                }
            var over = await SavedAsync(folder / "over", [1])
                && await SavedAsync(folder / "over", [2, 3])
                && (await DepotTree.ReadAsync(depot, folder / "over", cancel)) is [2, 3];
            var bulk = new byte[Megabytes << 20];
            new Random(1).NextBytes(bulk);
            var started = work.Time.GetTimestamp();
            await SavedAsync(folder / "bulk", bulk);
            var back = await DepotTree.ReadAsync(depot, folder / "bulk", cancel);
            var seconds = work.Time.GetElapsedTime(started).TotalSeconds;
            if (back is null || !back.AsSpan().SequenceEqual(bulk))
                throw new DepotUnreachableException(
                    depot.Address,
                    "it gives back something else than was written to it. Look at its disk before anything is staged there.");
            times.Sort();
            return new(
                depot.Address, times[2], 2 * bulk.Length / Math.Max(0.001, seconds), await depot.RoomAsync(cancel),
                features with { HoldsAnyName = features.HoldsAnyName && notHeld.Length == 0 }, longest, over, notHeld.ToString());
        }
        finally
        {
            await depot.RemoveAsync(folder, CancellationToken.None);
        }

        async Task<bool> SavedAsync(DepotPath path, byte[] content) =>
            (await depot.SaveAsync(path, folder / "aside", () => new MemoryStream(content), content.Length, cancel)).IsOk;

        async Task<bool> HoldsAsync(string name)
        {
            try
            {
                return await SavedAsync(folder / name, [7])
                    && (await depot.ListAsync(folder, cancel)).Any(n => n.Name == name)
                    && await DepotTree.ReadAsync(depot, folder / name, cancel) is [7];
            }
            catch (DepotUnreachableException)
            {
                // It answered that it cannot: a fault for a file, an answer for a probe.
                return false;
            }
        }
    }
}
