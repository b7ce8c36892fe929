using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Core.Carrying;

namespace YardRelay.Service.Tests;

public sealed class SqliteSeenStepTests(OnSqlite service) : SeenStepSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresSeenStepTests(OnPostgres service) : SeenStepSuite(service), IClassFixture<OnPostgres>;

/// <summary>Steps that computers and pictures do, and what their times tell; on every database.</summary>
public abstract class SeenStepSuite(RunningService service) : Morning(service)
{
    private const string Facts = """
        name: Facts and photos
        kinds: [renew]
        steps:
          - { key: desk, phase: swap, title: The desk as it was, kind: photo }
          - { key: programs, phase: after, title: Programs are there, kind: automatic, fact: programs-found, programs: ["Tide*", Mail] }
          - { key: room, phase: after, title: Room enough, kind: automatic, fact: free-disk, least: 20 }
          - { key: account, phase: after, title: The account is closed, kind: automatic, fact: account-closed }
          - { key: swapped, phase: swap, title: Swapped, kind: tick, marks: swapped, on: new }
          - { key: out, phase: hand-in, title: Signed out, kind: automatic, fact: signed-out }
          - { key: mac, phase: after, title: Only at a Mac, kind: tick, when: { new-platform: mac } }
          - { key: deck, phase: after, title: Only for deck hands, kind: tick, when: { role: "Deck*" } }
        """;

    private async Task<string> WithFactsAsync()
    {
        var refresh = await MorningAsync();
        (await PostAsync($"refreshes/{refresh}/templates", new { yaml = Facts })).EnsureSuccessStatusCode();
        await OkAsync<ChecklistMoved>(PostAsync($"swaps/{refresh}-0001/checklist/version", new ChecklistMove("Facts and photos")));
        return refresh;
    }

    private async Task<HttpResponseMessage> PhotoAsync(string swap, byte[] content, HttpClient? who = null)
    {
        var version = (await Service.SwapAsync(swap)).Checklist.Version;
        using var request = new HttpRequestMessage(
            HttpMethod.Put, $"api/swaps/{swap}/checklist/steps/desk/photo")
        { Content = new ByteArrayContent(content) };
        request.Headers.IfMatch.Add(new EntityTagHeaderValue($"\"{version}\""));
        return await (who ?? Kit).SendAsync(request);
    }

    private static HandReport Survey(string program, long free, bool cloud = false) => new(
        [],
        [],
        Survey: new(
            new(
                cloud ? [new("ida", "", PlaceKind.Cloud, "c", "Cloud", "Cloud", new(1, 1), default, null)] : [],
                [new("Mail", "3", "dpkg"), new(program, "1", "dpkg")],
                [],
                HomePlatform.Linux),
            0,
            100_000_000_000,
            free));

    /// <summary>Ida's swap with steps that see for themselves, and the hands of her two computers.</summary>
    private async Task<(string Refresh, string Ida, HttpClient Old, HttpClient New)> SeeingAsync()
    {
        var refresh = await WithFactsAsync();
        return (refresh, $"{refresh}-0001", await Service.HandAsync(refresh, "KB-1"), await Service.HandAsync(refresh, "KB-2"));
    }

    private async Task<string[]> StatesAsync(string swap, params string[] keys)
    {
        var steps = (await Service.SwapAsync(swap)).Checklist.Steps;
        return [.. keys.Select(k => steps.Single(s => s.Key == k).State)];
    }

    private async Task<CarryReview> ReviewAsync(string swap) =>
        (await Kit.GetFromJsonAsync<CarryListSeen>($"api/swaps/{swap}/carry-list", RunningService.Json))!.Review;

    [Fact]
    public async Task Programs_and_room_are_there_when_a_look_at_the_new_computer_says_so()
    {
        var (_, ida, _, fresh) = await SeeingAsync();
        (await Service.SwapAsync(ida)).Checklist.Steps.Single(s => s.Key == "programs").Expects.ShouldBe("Tide*, Mail");
        await Service.DoAsync(ida, "survey-new", fresh, Survey("Ledger", 5_000_000_000));
        (await StatesAsync(ida, "programs", "room")).ShouldBe(["open", "open"]);
        await Service.DoAsync(ida, "survey-new", fresh, Survey("Tide tables", 25_000_000_000));
        (await StatesAsync(ida, "programs", "room", "account", "out")).ShouldBe(["done", "done", "open", "open"]);
    }

    [Theory]
    [InlineData(20_000_000_000, true, "The new computer KB-2 has 25 GB free.")]
    [InlineData(30_000_000_000, false, "has only 25 GB free. Leave something out")]
    public async Task What_comes_along_is_set_against_the_room_that_the_new_computer_has(long bytes, bool fits, string words)
    {
        var (_, ida, old, fresh) = await SeeingAsync();
        await Service.DoAsync(ida, "survey-new", fresh, Survey("Tide tables", 25_000_000_000));
        await Service.DoAsync(
            ida, "survey", old, Survey("Mail", 1) with { Folders = [new("Documents", new(10, bytes), default, default)] });
        (await ReviewAsync(ida)).ShouldSatisfyAllConditions(r => r.Fits.ShouldBe(fits), r => r.Words.ShouldContain(words));
    }

    [Fact]
    public async Task The_account_is_closed_when_all_that_was_carried_is_restored()
    {
        var (_, ida, old, fresh) = await SeeingAsync();
        await Service.DoAsync(ida, "first-trip", old, RunningService.Result(10, 10));
        await Service.DoAsync(ida, "verify", old, HandReport.Fine);
        (await StatesAsync(ida, "account")).ShouldBe(["open"]);
        await Service.DoAsync(ida, "restore", fresh, RunningService.Result(10, 10));
        (await StatesAsync(ida, "account")).ShouldBe(["done"]);
    }

    [Fact]
    public async Task The_cloud_is_left_when_a_look_after_the_change_finds_none()
    {
        var (_, ida, old, _) = await SeeingAsync();
        await Service.DoAsync(ida, "survey", old, Survey("Mail", 1));
        (await StatesAsync(ida, "out")).ShouldBe(["open"], "before the change it says nothing");
        (await Service.ClaimAsync(ida, "swapped", new("ticked"))).EnsureSuccessStatusCode();
        await Service.DoAsync(ida, "survey", old, Survey("Mail", 1, cloud: true));
        (await StatesAsync(ida, "out")).ShouldBe(["open"]);
        await Service.DoAsync(ida, "survey", old, Survey("Mail", 1));
        (await StatesAsync(ida, "out")).ShouldBe(["done"]);
    }

    [Fact]
    public async Task Steps_for_a_role_or_a_system_are_there_when_the_roster_says_so()
    {
        var (refresh, ida, _, _) = await SeeingAsync();
        (await Service.SwapAsync(ida)).Checklist.Steps.ShouldNotContain(s => s.Key == "mac" || s.Key == "deck");
        (await Service.RosterAsync(
            refresh,
            "person,name,site,kind,old_tag,new_tag,role,New OS\n"
                + "k1,Ida Moreau,North,renew,KB-1,KB-2,Deck officer,macOS 26\n")).EnsureSuccessStatusCode();
        (await Service.SwapAsync(ida)).Checklist.Steps.Count(s => s.Key is "mac" or "deck").ShouldBe(2);
    }

    private static readonly byte[] Picture = Convert.FromBase64String(
        "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==");

    /// <summary>Ida's desk, with its picture taken.</summary>
    private async Task<(string Refresh, string Ida, StepSeen Step)> PhotographedAsync()
    {
        var refresh = await WithFactsAsync();
        (await PhotoAsync($"{refresh}-0001", Picture)).EnsureSuccessStatusCode();
        return (refresh, $"{refresh}-0001", await DeskAsync($"{refresh}-0001"));
    }

    private async Task<StepSeen> DeskAsync(string swap) => (await Service.SwapAsync(swap)).Checklist.Steps.Single(s => s.Key == "desk");

    [Fact]
    public async Task What_is_no_photo_is_refused_in_words_and_the_step_stays_open()
    {
        var ida = $"{await WithFactsAsync()}-0001";
        foreach (var (content, words) in new (byte[], string)[]
        {
            ([], "0 bytes"),
            ([.. "<svg onload=alert(1)>"u8], "JPEG, PNG or WebP"),
            (new byte[40_000_000], "40 MB; at most 12 MB"),
            ([0xFF, 0xD8, 0xFF, 0xE0, 0x00], "whole")
        })
            (await RefusedAsync(PhotoAsync(ida, content), 422)).ShouldContain(words);
        (await RefusedAsync(Service.ClaimAsync(ida, "desk", new("ticked")), 422)).ShouldNotBeEmpty("a tick is no photo");
        (await DeskAsync(ida)).State.ShouldBe("open");
    }

    [Fact]
    public async Task A_photo_is_kept_by_its_digest_and_comes_back_as_it_was()
    {
        var (_, ida, step) = await PhotographedAsync();
        (step.State, step.Value).ShouldBe(("done", Convert.ToHexStringLower(SHA256.HashData(Picture))));
        var back = await Kit.GetAsync($"api/swaps/{ida}/photos/{step.Value}");
        (
            back.Content.Headers.ContentType!.MediaType,
            back.Headers.GetValues("X-Content-Type-Options").Single()).ShouldBe(("image/png", "nosniff"));
        (await back.Content.ReadAsByteArrayAsync()).ShouldBe(Picture);
    }

    [Fact]
    public async Task The_same_photo_once_more_is_another_claim()
    {
        var (_, ida, _) = await PhotographedAsync();
        var version = (await Service.SwapAsync(ida)).Checklist.Version;
        (await PhotoAsync(ida, Picture)).EnsureSuccessStatusCode();
        (await Service.SwapAsync(ida)).Checklist.Version.ShouldBe(version + 1);
    }

    [Fact]
    public async Task A_photo_is_seen_with_its_own_swap_and_at_its_own_site_only()
    {
        var (refresh, ida, step) = await PhotographedAsync();
        (await Kit.GetAsync($"api/swaps/{refresh}-0002/photos/{step.Value}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await (await Service.AsAsync("theo")).GetAsync($"api/swaps/{ida}/photos/{step.Value}")).StatusCode
            .ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task What_is_needed_first_is_said_to_be_there_while_the_rest_still_comes()
    {
        var refresh = await MorningAsync();
        var ida = $"{refresh}-0001";
        await Service.DoAsync(ida, "first-trip", await Service.HandAsync(refresh, "KB-1"), RunningService.Result(10, 10));
        await Service.DoAsync(ida, "verify", await Service.HandAsync(refresh, "KB-1"), HandReport.Fine);
        (await Kit.PutAsJsonAsync(
            $"api/swaps/{ida}/landing",
            new LandingWanted([], [], ["Documents"], "beside", []),
            RunningService.Json)).EnsureSuccessStatusCode();
        (await PostAsync($"swaps/{ida}/orders", new OrderWanted("restore"))).EnsureSuccessStatusCode();
        var hand = await Service.HandAsync(refresh, "KB-2");
        var order = await RunningService.TakeAsync(hand);
        async Task<string> WordsAsync(int number, bool? first)
        {
            (await hand.PostAsJsonAsync(
                $"api/hand/orders/{order.Id}/reports/{number}",
                new OrderReport(order.Attempt, Service.Now, new(number, 10, number, 10, 1, first), null),
                RunningService.Json)).EnsureSuccessStatusCode();
            return (await Service.SwapAsync(ida)).Swap.Sign.Words;
        }
        (await WordsAsync(1, null), await WordsAsync(2, true), await WordsAsync(3, true)).ShouldBe((
            "Restore", "Restore: what is needed first is there", "Restore: what is needed first is there"));
        (await Service.SwapAsync(ida)).History.Count(h => h.Kind == "swap.first-ready").ShouldBe(1);
    }

    [Fact]
    public async Task Real_lengths_come_from_the_times_of_steps_and_stand_beside_what_is_set()
    {
        var refresh = await MorningAsync();
        var at = Service.Now.AddHours(-5);
        var lengths = new[] { (12, 70, 20), (18, 90, 25), (30, 60, 40) };
        await Service.WithRecordsAsync(async db =>
        {
            foreach (var ((before, alone, after), n) in lengths.Select((l, i) => (l, i)))
            {
                var id = $"{refresh}-000{new[] { 1, 2, 4 }[n]}";
                var swap = await db.Swaps.FirstAsync(s => s.Id == id);
                (swap.NewModel, swap.SwappedAt, swap.RestoredAt) = ("Gannet 14", at.AddMinutes(before), at.AddMinutes(before + alone));
                swap.AcceptedAt = at.AddMinutes(before + alone + 7 + after);
                db.Steps.Add(new() { Swap = id, Key = "updates", State = "done", By = "noor", At = at.AddHours(-20) });
                db.Steps.Add(new() { Swap = id, Key = "old-tag", State = "done", By = "noor", At = at });
                db.Steps.Add(new()
                {
                    Swap = id,
                    Key = "restarted",
                    State = "done",
                    By = "noor",
                    StartedAt = at.AddMinutes(before + alone + 7),
                    At = at.AddMinutes(before + alone + 12)
                });
            }
            return await db.SaveChangesAsync();
        });
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/estimates/kind/renew", new EstimateWanted(10, 60, 15, null))).EnsureSuccessStatusCode();
        var real = (await Kit.GetFromJsonAsync<List<RealLength>>($"api/refreshes/{refresh}/lengths", RunningService.Json))!;
        real.Select(l => (l.Of, l.Swaps, l.BeforeMinutes, l.UnattendedMinutes, l.AfterMinutes))
            .ShouldBe([("Gannet 14", 3, 18, 70, 25), ("renew", 3, 18, 70, 25)]);
        (real[0].Rule, real[1].Rule!.BeforeMinutes).ShouldBe((null, 10));
    }
}
