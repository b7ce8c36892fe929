using System.Text.Json.Nodes;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Depots.Folders;
using YardRelay.Carriage.Trips;
using YardRelay.Files;
using YardRelay.Files.Posix;
using YardRelay.Files.Working;
using YardRelay.Peers;

namespace YardRelay.Carriage.Tests.Trips;

/// <summary>A hand that runs as administrator, and an owner of the home who changes it under its feet.</summary>
public sealed class HostileHomeTests : IDisposable
{
    private static readonly DepotPath Parcel = DepotPath.Of("ida");
    private readonly TempFolder _folder = new();
    private readonly FolderDepot _depot;

    public HostileHomeTests() => _depot = new(TreeRoot.Here(_folder.Make("depot")));

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static TreeRoot By(string kind, string path) =>
        kind == "by POSIX" ? new(PosixFileSystem.Here, path) : TreeRoot.Here(path);

    private string Home(string name, int folders)
    {
        var home = _folder.Make(name);
        for (var i = 0; i < folders; i++)
        {
            Directory.CreateDirectory($"{home}/f{i}");
            for (var k = 0; k < 5; k++) File.WriteAllText($"{home}/f{i}/{k}.txt", $"of the home {i} {k}");
        }
        return home;
    }

    /// <summary>Puts a link to elsewhere in the place of a folder, and the folder back, again and again until it is over.</summary>
    private static Task SwapAsync(string home, int folders, string elsewhere, CancellationToken over) => Task.Run(
        () =>
        {
            for (var turn = 0; !over.IsCancellationRequested; turn++)
            {
                var (folder, aside) = ($"{home}/f{turn % folders}", $"{home}/.aside");
                if (!Directory.Exists(folder)) continue;
                try
                {
                    Directory.Move(folder, aside);
                    File.CreateSymbolicLink(folder, elsewhere);
                    Thread.SpinWait(20_000);
                    File.Delete(folder);
                    Directory.Move(aside, folder);
                }
                catch (IOException)
                {
                    // The hand made the folder meanwhile; both stand, and the next turn goes on.
                    if (Directory.Exists(aside)) Directory.Move(aside, $"{home}/.kept-{turn}");
                }
            }
        },
        CancellationToken.None);

    [Theory, InlineData("Linux"), InlineData("by POSIX")]
    public async Task A_folder_that_becomes_a_link_leads_neither_a_trip_nor_a_restore_out_of_the_home(string kind)
    {
        const int Folders = 40;
        var elsewhere = _folder.Make("elsewhere");
        File.WriteAllText($"{elsewhere}/secret.txt", "nobody's to read");
        for (var k = 0; k < 5; k++) File.WriteAllText($"{elsewhere}/{k}.txt", "nobody's to write");
        var (source, target) = (Home("source", Folders), Home("target", Folders));
        using (var over = CancellationTokenSource.CreateLinkedTokenSource(Cancel))
        {
            var swapping = SwapAsync(source, Folders, elsewhere, over.Token);
            for (var trip = 0; trip < 5; trip++)
                await new Trip(_depot, Parcel, new(), new(), ThreadWork.Here).RunAsync(By(kind, source), Cancel);
            await over.CancelAsync();
            await swapping;
        }
        Run.With(null, "grep", "-rla", "nobody's to read", _folder["depot"]).Out.ShouldBeEmpty();
        (await new Trip(_depot, Parcel, new(), new(), ThreadWork.Here).RunAsync(By(kind, source), Cancel)).IsOk.ShouldBeTrue();
        using (var over = CancellationTokenSource.CreateLinkedTokenSource(Cancel))
        {
            var swapping = SwapAsync(target, Folders, elsewhere, over.Token);
            for (var turn = 0; turn < 5; turn++)
                await new Restore(_depot, Parcel, 4, new(), ThreadWork.Here).RunAsync(By(kind, target), Cancel);
            await over.CancelAsync();
            await swapping;
        }
        Directory.GetFileSystemEntries(elsewhere).Select(Path.GetFileName).Order(StringComparer.Ordinal)
            .ShouldBe(["0.txt", "1.txt", "2.txt", "3.txt", "4.txt", "secret.txt"]);
        for (var k = 0; k < 5; k++) File.ReadAllText($"{elsewhere}/{k}.txt").ShouldBe("nobody's to write");
        Run.Must("stat", "-c", "%U %a", elsewhere).ShouldBe(Run.Must("stat", "-c", "%U %a", _folder.At).Trim().Split(' ')[0] + " 755\n");
    }

    [Theory, InlineData("Linux"), InlineData("by POSIX")]
    public async Task Where_the_owner_laid_out_the_folder_of_the_work_an_administrator_works_nowhere(string kind)
    {
        Assert.SkipUnless(Environment.UserName == "root", "Only an administrator gives folders to others.");
        var (source, target) = (Home("source", 2), Home("target", 0));
        (await new Trip(_depot, Parcel, new(), new(), ThreadWork.Here).RunAsync(By(kind, source), Cancel)).Value.IsWhole.ShouldBeTrue();
        var restore = new Restore(_depot, Parcel, 4, new(), ThreadWork.Here);
        var work = Path.Combine(target, ".yardhand-" + Guid.Parse(Id()).ToString("N")[..12]);
        Directory.CreateDirectory(work);
        Run.Must("chown", "nobody", work);
        (await restore.RunAsync(By(kind, target), Cancel)).Problem.Message.ShouldContain("another account owns");
        Directory.GetFileSystemEntries(target).ShouldBe([work]);
        Directory.GetFileSystemEntries(work).ShouldBeEmpty();
        Directory.Delete(work);
        (await new Restore(_depot, Parcel, 4, new(), ThreadWork.Here).RunAsync(By(kind, target), Cancel)).Value.IsWhole.ShouldBeTrue();
    }

    private string Id() => JsonNode.Parse(File.ReadAllText(_folder["depot/ida/yard/parcel.json"]))!["id"]!.ToString();

    public void Dispose()
    {
        _depot.Dispose();
        _folder.Dispose();
    }
}
