using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Folders;

namespace YardRelay.Core.Tests.Carrying.Folders;

public sealed class FolderTreeTests
{
    private static readonly DateTimeOffset Day = new(2026, 11, 1, 0, 0, 0, TimeSpan.Zero);

    /// <summary>A tree that is there by chance, walked as disks are: folders and files mixed, each folder before what is in it.</summary>
    private static void Walk(
        Random random, FolderTreeTaker taker, string path, int depth, Dictionary<string, Amount> truth, ref int folders)
    {
        for (var i = random.Next(5); i >= 0; i--)
        {
            if (random.Next(3) > 0 || depth > 7)
            {
                var bytes = random.Next(1, 1_000_000);
                taker.File(depth, bytes, Day.AddMinutes(random.Next(100_000)));
                for (var at = path; at.Length > 0; at = at.Contains('/') ? at[..at.LastIndexOf('/')] : "")
                    truth[at] = truth.GetValueOrDefault(at) + Amount.File(bytes);
                continue;
            }
            var below = path.Length == 0 ? $"f{i}" : $"{path}/f{i}";
            folders++;
            truth.TryAdd(below, default);
            taker.Enter(below, depth);
            Walk(random, taker, below, depth + 1, truth, ref folders);
        }
    }

    [Theory, InlineData(1), InlineData(2), InlineData(3), InlineData(4), InlineData(5), InlineData(6), InlineData(7), InlineData(8)]
    public void Whatever_is_cut_away_the_sums_are_right_and_each_folder_stands_below_its_own(int seed)
    {
        var (random, taker, truth, folders) = (new Random(seed), new FolderTreeTaker(4), new Dictionary<string, Amount>(), 0);
        for (var i = 0; i < 12; i++)
        {
            taker.Enter($"top{i}", 1);
            truth.TryAdd($"top{i}", default);
            folders++;
            Walk(random, taker, $"top{i}", 2, truth, ref folders);
        }
        foreach (var most in new[] { 5, 40, 10_000 })
        {
            var nodes = taker.Finish(most);
            nodes.Count.ShouldBe(Math.Min(most, truth.Count(t => t.Key.Count(c => c == '/') < 4)));
            foreach (var node in nodes) node.Files.ShouldBe(truth[node.Path], node.Path);
            for (var i = 0; i < nodes.Count; i++)
                if (nodes[i].Path.LastIndexOf('/') is > 0 and var slash)
                    nodes.Take(i).ShouldContain(n => n.Path == nodes[i].Path.Substring(0, slash));
            // Folders that are not shown are told of, as long as they are no deeper than the tree.
            nodes.Where(n => n.Path.Count(c => c == '/') < 3)
                .Sum(n => n.Smaller)
                .ShouldBe(truth.Keys.Count(k =>
                    k.Contains('/')
                        && k.Count(c => c == '/') < 4
                        && nodes.All(n => n.Path != k)
                        && nodes.Any(n => n.Path == k[..k.LastIndexOf('/')])));
        }
        taker.Deeper.ShouldBe(truth.Keys.Count(k => k.Count(c => c == '/') >= 4));
    }
}
