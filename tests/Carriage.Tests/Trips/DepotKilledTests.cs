using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Depots.Sftp;
using YardRelay.Carriage.Depots.WebDav;
using YardRelay.Carriage.Trips;
using YardRelay.Files;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>Real servers killed in the middle of a trip and of a restore, and started again: nothing lost, nothing silent.</summary>
public sealed class DepotKilledTests
{
    /// <summary>
    /// Three seeds of each kind; more when asked for: <c>YARD_SEEDS=100</c>. Over SMB every kill costs half a minute, so it has fewer.
    /// </summary>
    public static IEnumerable<TheoryDataRow<string, int, bool>> Kills =>
        new[] { "ssh", "apache", "samba" }.Where(Seeds.Wants).SelectMany(kind =>
            (kind == "samba" ? Seeds.Of(1, share: 5) : Seeds.Of(3)).Select(s => new TheoryDataRow<string, int, bool>(kind, s, s % 2 == 0)));

    [Theory, MemberData(nameof(Kills))]
    public async Task A_depot_that_is_killed_at_any_moment_has_in_the_end_what_it_would_have_had(string kind, int seed, bool seals)
    {
        using var given = new Given { Seals = seals, Answers = true };
        using var ssh = kind == "ssh" ? new SshShare() : null;
        using var apache = kind == "apache" ? new ApacheShare() : null;
        using var samba = kind == "samba" ? new SmbShare() : null;
        given.Depot = ssh is not null
            ? new SftpDepot(new(ssh.Address), new()
            {
                KeyFile = ssh.KeyFile,
                HostKey = ssh.HostKey,
                FirstWait = TimeSpan.FromMilliseconds(50)
            })
            : apache is not null
                ? new WebDavDepot(new(apache.Address), new() { FirstWait = TimeSpan.FromMilliseconds(50), Tries = 8 })
                : new FolderDepot(TreeRoot.Here(samba!.Folder));
        Action restart = ssh is not null ? ssh.Restart : apache is not null ? apache.Restart : samba!.Restart;
        var tree = new LivingTree(given.Source, seed);
        tree.Change(60);
        var film = new byte[24_000_000];
        new Random(seed).NextBytes(film);
        File.WriteAllBytes(Path.Combine(given.Source, "film.mov"), film);
        var random = new Random(seed);
        for (var kill = 0; kill < (kind == "samba" ? 1 : 3); kill++)
        {
            await KilledAsync(() => given.TryCarryAsync());
            tree.Change(5);
        }
        var report = await BackAsync(given.CarryAsync);
        report.Snags.ShouldBeEmpty(tree.Story);
        (await BackAsync(given.VerifyAsync)).Damages.ShouldBeEmpty(tree.Story);
        await KilledAsync(() => given.TryRestoreAsync());
        (await BackAsync(given.RestoreAsync)).IsWhole.ShouldBeTrue(tree.Story);
        SampleTrees.Differences(given.Source, given.Target).ShouldBeEmpty(tree.Story);

        // A mount needs a while after its server is back; until then each try ends with the word that it can be run again.
        static async Task<T> BackAsync<T>(Func<Task<T>> work)
        {
            for (var tries = 0; ; tries++)
            {
                try
                {
                    return await work();
                }
                catch (DepotUnreachableException) when (tries < 40)
                {
                    await Task.Delay(500, TestContext.Current.CancellationToken);
                }
            }
        }

        // Whether the work outlives it or ends with a clear word is the depot's affair; that it ends is ours.
        async Task KilledAsync<T>(Func<Task<T>> work)
        {
            var killing = Task.Run(async () =>
            {
                await Task.Delay(random.Next(20, 700));
                restart();
            });
            try
            {
                await Task.Run(work).WaitAsync(TimeSpan.FromMinutes(2), TestContext.Current.CancellationToken);
            }
            catch (Exception said) when (said is DepotUnreachableException)
            {
                said.Message.ShouldContain("cannot be reached");
            }
            finally
            {
                await killing;
            }
        }
    }
}
