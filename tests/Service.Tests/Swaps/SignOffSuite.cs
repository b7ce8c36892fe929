using System.Net.Http.Json;
using System.Text.Json.Nodes;
using YardRelay.Contracts;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Ledger;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;
using YardRelay.Peers;

namespace YardRelay.Service.Tests;

public sealed class SqliteSignOffTests(OnSqlite service) : SignOffSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresSignOffTests(OnPostgres service) : SignOffSuite(service), IClassFixture<OnPostgres>;

/// <summary>Who signs what, on whose device, and what a signature rests on. On every database.</summary>
public abstract class SignOffSuite(RunningService service) : Morning(service)
{
    private const string Strokes = "M10 20 L30.5 40 L-3 4";

    /// <summary>A swap whose work is done but for the person's look, which a signature takes the place of.</summary>
    private async Task<string> FinishedAsync()
    {
        var refresh = await MorningAsync();
        var swap = $"{refresh}-0001";
        await FinishAsync(refresh, swap, "KB-1", "KB-2");
        (await Service.ClaimAsync(swap, "looked", new("reopened"))).EnsureSuccessStatusCode();
        return swap;
    }

    private Task<HttpResponseMessage> SignAsync(string swap, SignOffWanted wanted) => PostAsync($"swaps/{swap}/sign-offs", wanted);

    private async Task<SignOffSeen> SignedAsync(string swap) => await OkAsync<SignOffSeen>(SignAsync(swap, new(
        SignOffPart.Person,
        (await Service.SwapAsync(swap)).SignOffs.Single(s => s.Part == SignOffPart.Person).Facts,
        " ida moreau",
        Strokes)));

    [Fact]
    public async Task Nobody_signs_before_the_files_are_there()
    {
        var refresh = await MorningAsync();
        (await RefusedAsync(SignAsync($"{refresh}-0001", new(SignOffPart.Person, Name: "Ida Moreau")), 409)).ShouldContain("not staged");
    }

    [Fact]
    public async Task Who_misses_something_says_so_and_nobody_signs_until_that_is_settled()
    {
        var swap = await FinishedAsync();
        var refused = await OkAsync<FollowUpSeen>(PostAsync($"swaps/{swap}/refusal", new RefusalWanted("the tide tables are not there")));
        (refused.Cause, refused.Holds).ShouldBe(("refusal", FollowUpHold.SignOff));
        (await RefusedAsync(SignAsync(swap, new(SignOffPart.Person, Name: "Ida Moreau")), 409)).ShouldContain("tide tables");
        (await PostAsync($"follow-ups/{refused.Id}/end", new FollowUpEnd("they lay in another folder"))).EnsureSuccessStatusCode();
        (await SignedAsync(swap)).By.ShouldBe("kit");
    }

    [Fact]
    public async Task A_signature_is_the_persons_own_name_and_strokes_with_an_end()
    {
        var swap = await FinishedAsync();
        foreach (var (part, name, drawn, words) in new[]
        {
            (SignOffPart.Person, "Sol Okafor", null, "Ida Moreau"),
            (SignOffPart.Technician, "Ida Moreau", null, "name"),
            (SignOffPart.Person, "Ida Moreau", "<script>", "SVG path"),
            (SignOffPart.Person, "Ida Moreau", "M1 1\"/><script>alert(1)</script>", "SVG path"),
            (SignOffPart.Person, "Ida Moreau", "url(x)", "SVG path"),
            (SignOffPart.Person, "Ida Moreau", "", "SVG path"),
            (SignOffPart.Person, "Ida Moreau", "M" + new string('1', 20_001), "SVG path"),
        })
            (await RefusedAsync(SignAsync(swap, new(part, Name: name, Drawn: drawn)), 422)).ShouldContain(words, Case.Insensitive);
    }

    [Fact]
    public async Task Who_signs_for_a_person_does_so_as_themselves_with_the_person_there_who_has_looked_and_accepted()
    {
        var swap = await FinishedAsync();
        var signed = await SignedAsync(swap);
        (signed.By, signed.Witness, signed.Drawn).ShouldBe(("kit", "Ida Moreau", Strokes));
        var seen = await Service.SwapAsync(swap);
        seen.Swap.Line.Single(l => l.Station == Station.Accepted).At.ShouldNotBeNull();
        seen.Checklist.Steps.Single(s => s.Key == "looked").By.ShouldBe("kit");
        await RefusedAsync(PostAsync($"swaps/{swap}/refusal", new RefusalWanted("and yet")), 409);
    }

    [Fact]
    public async Task What_was_signed_is_a_paper_with_its_digest_and_stands_on_the_printed_swap()
    {
        var swap = await FinishedAsync();
        var signed = await SignedAsync(swap);
        var paper = await (await Kit.GetAsync($"api/swaps/{swap}/sign-offs/person/paper")).Content.ReadAsStringAsync();
        (LedgerChain.Digest(paper), (string?)JsonNode.Parse(paper)!["witness"]).ShouldBe((signed.Sha256, "Ida Moreau"));
        using var folder = new TempFolder();
        await File.WriteAllBytesAsync(folder["swap.pdf"], await Kit.GetByteArrayAsync($"api/swaps/{swap}/paper.pdf"));
        Run.Must("pdftotext", "-layout", folder["swap.pdf"], "-").ShouldSatisfyAllConditions(
            t => t.ShouldContain("kit,"),
            t => t.ShouldContain("for Ida Moreau, who was there"),
            t => t.ShouldContain(signed.Sha256![..60]),
            t => t.ShouldContain("KB-1 → KB-2"));
        Run.Must("pdfinfo", folder["swap.pdf"]).ShouldMatch(@"Pages:\s+[123]\n");
    }

    [Fact]
    public async Task What_the_person_signed_rests_on_what_the_technician_signed()
    {
        var swap = await FinishedAsync();
        await SignedAsync(swap);
        (await SignAsync(swap, new(SignOffPart.Technician))).EnsureSuccessStatusCode();
        (await OkAsync<SwapSeen>(PostAsync($"swaps/{swap}/sign-offs/technician/reopening", new ReopeningWanted("wrong printer")))).SignOffs
            .ShouldAllBe(s => s.By == null);
    }
}
