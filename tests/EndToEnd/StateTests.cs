using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>What the service keeps, and whom it lets at it.</summary>
public sealed class StateTests : IDisposable
{
    private const UnixFileMode Others = (UnixFileMode)0b111_111;
    private readonly Yard _yard = new();

    private Ran Relay(params string[] args) => Run.To(Run.Bin("yardrelay"), ["--urls", _yard.Address, "--log", "Error", .. args]);

    [Fact]
    public async Task All_that_it_keeps_is_its_own_accounts_whatever_the_umask_is_and_a_copy_opens_nothing()
    {
        await File.WriteAllTextAsync(_yard.Folder["first"], "kit:kestrel-bay-ferries\n", TestContext.Current.CancellationToken);
        var service = _yard.StartOpenly(
            "yardrelay", "--urls", _yard.Address, "--state", _yard.Folder["state"], "--log", "Warning", "--first-file",
            _yard.Folder["first"]);
        await ReadyAsync();
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line("refresh", "make", "spring", "--name", "Spring", "--starts", "2035-03-07", "--days", "2", "--zone", "UTC");
        await File.WriteAllTextAsync(_yard.Folder["secret"], "open-store\n", TestContext.Current.CancellationToken);
        // Set it is; that it is of no use here is no success.
        var set = _yard.TryLine(
            "depot", "set", "store", "--name", "Store", "--address", "sftp://store.kestrelbay.example/p", "--user", "ferry",
            "--password-file", _yard.Folder["secret"]);
        (set.Exit, set.Err.Trim()).ShouldBe((1, "Store is set so, and cannot be used: Nobody knows a computer of that name."));
        var open = Directory.EnumerateFileSystemEntries(_yard.Folder["state"], "*", SearchOption.AllDirectories)
            .Append(_yard.Folder["state"]).Append(_yard.Folder["state.key"])
            .Where(f => (File.GetUnixFileMode(f) & Others) != 0);
        open.ShouldBeEmpty();
        _yard.Said.ShouldNotContain("given as an option");
        service.Kill();
        await service.WaitForExitAsync(TestContext.Current.CancellationToken);

        Run.Must("cp", "-r", _yard.Folder["state"], _yard.Folder["copy"]);
        var strange = Relay("--state", _yard.Folder["copy"]);
        strange.Exit.ShouldBe(2, strange.All);
        strange.Err.ShouldContain("another computer's key");
        _yard.Start("yardrelay", "--urls", _yard.Address, "--state", _yard.Folder["copy"], "--key-anew", "yes", "--log", "Error");
        await ReadyAsync();
        _yard.Line("depot", "list").ShouldContain("can no longer read");
    }

    [Fact]
    public void What_it_cannot_go_by_is_said_before_anything_is_made()
    {
        foreach (var (said, args) in new[]
        {
            ("holds other things", new[] { "--state", _yard.Folder.Make("shared") }),
            ("12 to 200 characters", ["--state", _yard.Folder["a"], "--first", "kit:short"]),
            ("first that somebody tries", ["--state", _yard.Folder["b"], "--first", "kit:Password2026!"]),
            ("NAME:PASSWORD", ["--state", _yard.Folder["c"], "--first", "kit"]),
            ("no address of a proxy", ["--state", _yard.Folder["d"], "--proxies", "proxy.example"]),
            ("cannot be read", ["--state", _yard.Folder["e"], "--mail", "smtp://mail.example", "--mail-password-file", "/no/such"]),
            ("no key of the service", ["--state", _yard.Folder["f"], "--key", "/etc/hostname"]),
        })
        {
            if (said.StartsWith("holds", StringComparison.Ordinal))
            {
                File.WriteAllText(_yard.Folder["shared/notes"], "ours");
                File.SetUnixFileMode(_yard.Folder["shared"], (UnixFileMode)0b111_101_101);
            }
            var ran = Relay(args);
            ran.Exit.ShouldBe(2, ran.All);
            ran.Err.ShouldContain(said);
        }
    }

    private Task ReadyAsync() => _yard.UntilAsync(
        async http => (await http.GetAsync(new Uri(_yard.Address + "/health/ready"))).IsSuccessStatusCode, "the service is ready");

    public void Dispose() => _yard.Dispose();
}
