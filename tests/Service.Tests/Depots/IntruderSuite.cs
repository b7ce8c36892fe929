using System.Net;
using System.Net.Http.Json;
using System.Text;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqliteIntruderTests(OnSqlite service) : IntruderSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresIntruderTests(OnPostgres service) : IntruderSuite(service), IClassFixture<OnPostgres>;

/// <summary>Nobody gets in where they do not belong: each way in that somebody with the least right might try. On every database.</summary>
public abstract class IntruderSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    private async Task<string> RefreshAsync(string depot = "built-in")
    {
        var refresh = await service.RefreshAsync();
        (await Kit.PutAsJsonAsync($"api/refreshes/{refresh}/depots/cloud", new DepotWanted("Own", depot))).EnsureSuccessStatusCode();
        return refresh;
    }

    private async Task<OrderTaken> BegunAsync(string swap, HttpClient hand)
    {
        (await service.OrderAsync(swap, new("first-trip"))).EnsureSuccessStatusCode();
        return await RunningService.TakeAsync(hand);
    }

    private async Task<int> AskAsync(OrderTaken order, string method, string path, string depth = "0")
    {
        var request = new HttpRequestMessage(new(method), "depot/" + path);
        request.Headers.Authorization = new(
            "Basic", Convert.ToBase64String(Encoding.UTF8.GetBytes($"{order.Access!.User}:{order.Access!.Password}")));
        if (method == "PROPFIND") request.Headers.Add("Depth", depth);
        return (int)(await service.Nobody().SendAsync(request)).StatusCode;
    }

    [Fact]
    public async Task A_technician_names_no_folder_of_a_depot()
    {
        var refresh = await RefreshAsync();
        await service.StaffAsync("lea", "North");
        var answer = await (await service.AsAsync("lea")).PostAsJsonAsync(
            $"api/swaps/{refresh}-0001/orders", new OrderWanted("adopt", Folder: "Old shares/Ida"));
        (await RunningService.ProblemAsync(answer, 403)).ToJsonString().ShouldContain("coordinator");
    }

    [Theory]
    [InlineData("built-in")]
    [InlineData("http://127.0.0.1:1/")]
    public async Task No_order_is_given_a_folder_that_reaches_the_parcel_of_another_swap_in_any_refresh(string depot)
    {
        var (refresh, other) = (await RefreshAsync(depot), await RefreshAsync(depot));
        var theirs = (await BegunAsync($"{refresh}-0002", await service.HandAsync(refresh, "KB-3"))).Parcel!;
        var foreign = (await BegunAsync($"{other}-0001", await service.HandAsync(other, "KB-1"))).Parcel!;
        foreach (var folder in new[]
        {
            theirs, foreign, theirs + "/data", foreign + "/yard", theirs.ToUpperInvariant(), refresh, other, refresh.ToUpperInvariant()
        })
            (await RunningService.ProblemAsync(
                await service.OrderAsync($"{refresh}-0001", new("adopt", Folder: folder)), 422)).ToJsonString()
                .ShouldContain("order.out-of-reach", customMessage: folder);
        (await service.OrderAsync($"{refresh}-0001", new("adopt", Folder: $"Old shares/{refresh}"))).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task Of_many_orders_at_once_that_which_would_reach_anothers_parcel_is_left_out_and_named()
    {
        var refresh = await RefreshAsync();
        await LiesAsync($"{refresh}-0001", $"{refresh}/Shared");
        await LiesAsync($"{refresh}-0002", $"{refresh}/shared/Sol");
        var all = new OrdersWanted("first-trip", [], IsAll: true);
        var made = (await (await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/orders", all)).Content
            .ReadFromJsonAsync<OrdersMade>(RunningService.Json))!;
        made.Given.ShouldBe(0);
        made.Skipped.ShouldContain(s => s.Contains("-0001") && s.Contains("lies in it or holds it"));
        made.Skipped.ShouldContain(s => s.Contains("-0002") && s.Contains("lies in it or holds it"));
    }

    [Fact]
    public async Task Another_depot_that_lies_in_the_first_is_no_way_into_its_parcels()
    {
        var refresh = await RefreshAsync("https://share.kestrelbay.example/store/");
        var theirs = (await BegunAsync($"{refresh}-0002", await service.HandAsync(refresh, "KB-3"))).Parcel!;
        (await Kit.PutAsJsonAsync(
            $"api/refreshes/{refresh}/depots/deeper",
            new DepotWanted("Deeper", $"http://Share.kestrelbay.example:8080/store/{refresh}"))).EnsureSuccessStatusCode();
        (await Kit.PostAsJsonAsync(
            $"api/refreshes/{refresh}/swaps/edits", new SwapEdit([$"{refresh}-0001"], Depot: "deeper"))).EnsureSuccessStatusCode();
        (await RunningService.ProblemAsync(
            await service.OrderAsync($"{refresh}-0001", new("adopt", Folder: theirs.Split('/')[1])), 422)).ToJsonString()
            .ShouldContain($"{refresh}-0002");
    }

    [Fact]
    public async Task An_order_that_came_to_reach_anothers_parcel_since_it_was_given_is_not_handed_out()
    {
        var refresh = await RefreshAsync();
        var hand = await service.HandAsync(refresh, "KB-1");
        (await service.OrderAsync($"{refresh}-0001", new("adopt", Folder: $"Moved/{refresh}"))).EnsureSuccessStatusCode();
        await LiesAsync($"{refresh}-0002", $"Moved/{refresh}/Sol");
        (await hand.PostAsync("api/hand/orders/next?waitSeconds=0", null)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        var order = (await service.SwapAsync($"{refresh}-0001")).Orders.Single();
        order.State.ShouldBe("failed");
        order.Words!.ShouldContain($"{refresh}-0002");
    }

    [Fact]
    public async Task A_ticket_lists_nothing_but_its_own_and_ends_when_it_comes_to_reach_anothers_parcel()
    {
        var refresh = await RefreshAsync();
        var hand = await service.HandAsync(refresh, "KB-1");
        var folder = $"Filled/{refresh}";
        (await service.OrderAsync($"{refresh}-0001", new("adopt", Folder: folder))).EnsureSuccessStatusCode();
        var order = await RunningService.TakeAsync(hand);
        foreach (var above in new[] { "", "Filled/" })
        {
            (await AskAsync(order, "PROPFIND", above, depth: "1")).ShouldBe(403, above);
            (await AskAsync(order, "PROPFIND", above, depth: "infinity")).ShouldBe(403, above);
        }
        (await AskAsync(order, "PROPFIND", folder + "/", depth: "1")).ShouldBe(404, "it may look, and nothing is there");
        await LiesAsync($"{refresh}-0002", folder + "/Sol");
        for (var tries = 0; await AskAsync(order, "PROPFIND", folder + "/") != 401; tries++)
        {
            tries.ShouldBeLessThan(600, "the ticket ends");
            await Task.Delay(200);
        }
    }

    [Fact]
    public async Task A_ticket_ends_at_once_with_its_order_also_for_what_is_on_its_way()
    {
        var refresh = await RefreshAsync();
        var order = await BegunAsync($"{refresh}-0001", await service.HandAsync(refresh, "KB-1"));
        (await AskAsync(order, "PROPFIND", order.Parcel + "/")).ShouldBe(404, "it may look, and nothing is there");
        // A file that comes byte by byte, and would come for an hour.
        using var coming = new SlowContent();
        var put = new HttpRequestMessage(HttpMethod.Put, $"depot/{order.Parcel}/slow") { Content = coming };
        put.Headers.TransferEncodingChunked = true;
        put.Headers.Authorization = new(
            "Basic", Convert.ToBase64String(Encoding.UTF8.GetBytes($"{order.Access!.User}:{order.Access!.Password}")));
        (await AskAsync(order, "MKCOL", refresh)).ShouldBeOneOf(201, 405);
        (await AskAsync(order, "MKCOL", order.Parcel!)).ShouldBe(201);
        var sent = service.Straight().SendAsync(put);
        await coming.Begun.WaitAsync(TimeSpan.FromMinutes(2));
        (await Kit.DeleteAsync($"api/refreshes/{refresh}/hands/KB-1")).EnsureSuccessStatusCode();
        (await AskAsync(order, "PROPFIND", order.Parcel + "/")).ShouldBe(401);
        (await Should.ThrowAsync<Exception>(() => sent.WaitAsync(TimeSpan.FromMinutes(2)))).ShouldNotBeOfType<TimeoutException>();
    }

    private sealed class SlowContent : HttpContent
    {
        private readonly TaskCompletionSource _begun = new(TaskCreationOptions.RunContinuationsAsynchronously);

        public Task Begun => _begun.Task;

        protected override async Task SerializeToStreamAsync(Stream stream, TransportContext? context)
        {
            for (var sent = 0; sent < 3600; sent++)
            {
                await stream.WriteAsync(new byte[1024]);
                await stream.FlushAsync();
                _begun.TrySetResult();
                await Task.Delay(1000);
            }
        }

        protected override bool TryComputeLength(out long length)
        {
            length = 0;
            return false;
        }
    }

    [Fact]
    public async Task A_technician_makes_codes_for_computers_of_their_sites_and_sees_and_withdraws_hands_there_and_nowhere_else()
    {
        var refresh = await RefreshAsync();
        await service.StaffAsync("lea", "North");
        var lea = await service.AsAsync("lea");
        Task<HttpResponseMessage> CodeAsync(string tag) => lea.PostAsJsonAsync($"api/refreshes/{refresh}/codes", new CodeWanted(tag));
        (await CodeAsync("KB-1")).EnsureSuccessStatusCode();
        (await RunningService.ProblemAsync(await CodeAsync("KB-3"), 403)).ToJsonString().ShouldContain("KB-3");
        await RunningService.ProblemAsync(await CodeAsync("KB-999"), 404);
        var (near, far) = (await service.HandAsync(refresh, "KB-1"), await service.HandAsync(refresh, "KB-3"));
        async Task<List<string>> SeenAsync(HttpClient who) =>
            [.. (await who.GetFromJsonAsync<Page<HandSeen>>($"api/refreshes/{refresh}/hands", RunningService.Json))!.Items
                .Select(h => h.Tag)];
        (await SeenAsync(lea)).ShouldBe(["KB-1"]);
        (await SeenAsync(Kit)).ShouldBe(["KB-1", "KB-3"]);
        await RunningService.ProblemAsync(await lea.DeleteAsync($"api/refreshes/{refresh}/hands/KB-3"), 403);
        (await lea.DeleteAsync($"api/refreshes/{refresh}/hands/KB-1")).EnsureSuccessStatusCode();
        (await near.PostAsync("api/hand/orders/next?waitSeconds=0", null)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await far.PostAsync("api/hand/orders/next?waitSeconds=0", null)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
    }

    /// <summary>The parcel of a swap lies there, however that came about.</summary>
    private Task<int> LiesAsync(string swap, string parcel) => service.WithRecordsAsync(db =>
        db.Swaps.Where(s => s.Id == swap).ExecuteUpdateAsync(u => u.SetProperty(s => s.Parcel, parcel).SetProperty(s => s.Depot, "cloud")));
}
