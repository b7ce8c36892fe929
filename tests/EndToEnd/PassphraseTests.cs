using System.Net.Http.Json;
using System.Text.Json.Nodes;
using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>
/// A person's own passphrase, from their page through the service and the hand into the parcel, and out again without any of them.
/// </summary>
public sealed class PassphraseTests : IDisposable
{
    private readonly Yard _yard = new();

    private TempFolder Folder => _yard.Folder;

    [Fact]
    public async Task What_was_sealed_opens_with_the_words_that_the_person_gave_on_their_page_and_another_trip_takes_others()
    {
        var cancel = TestContext.Current.CancellationToken;
        await _yard.StartServiceAsync();
        await File.WriteAllTextAsync(
            Folder["roster.csv"], "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North Quay,renew,KB-1,KB-11\n", cancel);
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line(
            "refresh", "make", "spring", "--name", "Spring", "--starts", DateTime.UtcNow.ToString("yyyy-MM-dd"), "--days", "2", "--zone",
            "UTC");
        _yard.Line("roster", "take", Folder["roster.csv"]);
        var recipient = Run.To(Run.Bin("yardhand"), "key", "make", "--out", Folder["recovery.key"]).Out.Trim();
        _yard.Line("depot", "set", "share", "--name", "Share", "--address", $"file://{Folder.Make("share")}", "--seal-to", recipient);
        SampleTrees.MakeHostile(Folder["disks/KB-1/Documents"], 4, 30);
        Folder.Make("disks/KB-11");
        await _yard.EnrolAsync();

        var link = _yard.Line("person", "link", "spring-0001", "--hand-over").Split('\n')[0].Trim();
        using var ida = new HttpClient { BaseAddress = new(_yard.Address), DefaultRequestHeaders = { { "Origin", _yard.Address } } };
        (await ida.PostAsJsonAsync("api/person/session", new { secret = link.Split('#')[1] }, cancel)).EnsureSuccessStatusCode();
        async Task GiveAsync(string words) =>
            (await ida.PutAsJsonAsync("api/person/passphrase", new { passphrase = words }, cancel)).EnsureSuccessStatusCode();
        string Step() =>
            JsonNode.Parse(_yard.Line("swap", "show", "spring-0001", "--json"))!["checklist"]!["steps"]!.AsArray()
                .First(s => (string?)s!["key"] == "passphrase")!["state"]!.GetValue<string>();
        string Parcel() => JsonNode.Parse(_yard.Line("swap", "show", "spring-0001", "--json"))!["parcel"]!["name"]!.GetValue<string>();
        async Task<Ran> RestoreAsync(string words, string to)
        {
            await File.WriteAllTextAsync(Folder["words"], words + "\n", cancel);
            return Run.To(
                Run.Bin("yardhand"), "restore", "--depot", $"file://{Folder["share"]}", "--parcel", Parcel(), "--to", Folder[to],
                "--passphrase-file", Folder["words"]);
        }

        await GiveAsync("gulls over the harbour wall");
        Step().ShouldBe("open");
        _yard.Work();
        _yard.Line("swap", "order", "first-trip", "--all");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        Step().ShouldBe("done");
        (await RestoreAsync("gulls under the harbour wall", "wrong")).Exit.ShouldNotBe(0);
        (await RestoreAsync("gulls over the harbour wall", "new")).Exit.ShouldBe(0);
        SampleTrees.Differences(Folder["disks/KB-1"], Folder["new"]).ShouldBeEmpty();

        // Others take their place with the next trip; the packs stay as they are.
        await GiveAsync("quite other words of mine");
        _yard.Line("swap", "order", "top-up-trip", "--all");
        _yard.Line("swap", "wait", "--seconds", Yard.OrderPatience);
        (await RestoreAsync("gulls over the harbour wall", "old-words")).Exit.ShouldNotBe(0);
        (await RestoreAsync("quite other words of mine", "new-words")).Exit.ShouldBe(0);
        // Nothing that is kept or said has them.
        foreach (var file in Directory.GetFiles(Folder["state"]))
            System.Text.Encoding.Latin1.GetString(await ReadAsync(file)).ShouldNotContain("other words of mine");
        (_yard.Said + _yard.Line("ledger", "show")).ShouldNotContain("other words of mine");
    }

    // The service has it open.
    private static async Task<byte[]> ReadAsync(string file)
    {
        await using var open = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
        using var all = new MemoryStream();
        await open.CopyToAsync(all);
        return all.ToArray();
    }

    public void Dispose() => _yard.Dispose();
}
