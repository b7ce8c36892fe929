using System.Net;
using YardRelay.Dav;
using YardRelay.Peers;

namespace YardRelay.Dav.Tests;

public sealed class LitmusTests
{
    [Fact]
    public async Task The_WebDAV_suite_litmus_passes_in_full()
    {
        using var folder = new TempFolder();
        await using var share = await CloudShare.StartAsync(new() { Folder = folder.Make("share") });
        var ran = Run.To("sh", "-c", $"cd '{folder.Make("work")}' && litmus -k {share.Address}");
        ran.Exit.ShouldBe(0, ran.All);
        System.Text.RegularExpressions.Regex.Count(ran.Out, "tests run: .* 0 failed").ShouldBe(5, ran.Out);
        ran.Out.ShouldNotContain("WARNING");
    }

    [Fact]
    public async Task A_share_with_a_quota_says_what_is_left_and_answers_507_when_it_is_full_and_counts_what_is_freed()
    {
        using var folder = new TempFolder();
        await using var share = await CloudShare.StartAsync(new() { Folder = folder.At, QuotaBytes = 1000 });
        using var http = new HttpClient { BaseAddress = new(share.Address) };
        (await PutAsync("a", 600)).ShouldBe(HttpStatusCode.Created);
        (await PutAsync("b", 500)).ShouldBe(HttpStatusCode.InsufficientStorage);
        (await http.GetAsync("b")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await LeftAsync()).ShouldBe("400");
        (await PutAsync("a", 100)).ShouldBe(HttpStatusCode.NoContent);
        (await LeftAsync()).ShouldBe("900");
        (await http.DeleteAsync("a")).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await LeftAsync()).ShouldBe("1000");

        async Task<HttpStatusCode> PutAsync(string name, int bytes) =>
            (await http.PutAsync(name, new ByteArrayContent(new byte[bytes]))).StatusCode;
        async Task<string> LeftAsync()
        {
            var request = new HttpRequestMessage(new("PROPFIND"), "/")
            {
                Content = new StringContent("<propfind xmlns=\"DAV:\"><prop><quota-available-bytes/></prop></propfind>")
            };
            request.Headers.Add("Depth", "0");
            var text = await (await http.SendAsync(request)).Content.ReadAsStringAsync();
            return System.Xml.Linq.XDocument.Parse(text).Descendants("{DAV:}quota-available-bytes").Single().Value;
        }
    }

    [Fact]
    public async Task A_link_in_the_folder_is_never_followed_and_no_path_leaves_the_share()
    {
        using var folder = new TempFolder();
        File.WriteAllText(folder["secret"], "outside");
        var inside = folder.Make("share");
        File.CreateSymbolicLink(Path.Combine(inside, "link"), folder.At);
        await using var share = await CloudShare.StartAsync(new() { Folder = inside });
        using var http = new HttpClient { BaseAddress = new(share.Address) };
        (await http.GetAsync("link/secret")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await http.PutAsync("link/new", new StringContent("x"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await http.PutAsync("link", new StringContent("x"))).IsSuccessStatusCode.ShouldBeFalse();
        using var raw = new System.Net.Sockets.TcpClient("127.0.0.1", http.BaseAddress.Port);
        await raw.GetStream().WriteAsync("GET /%2e%2e/secret HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n"u8.ToArray());
        (await new StreamReader(raw.GetStream()).ReadToEndAsync()).ShouldNotContain("outside");
        File.Exists(folder["new"]).ShouldBeFalse();
    }

    [Fact]
    public async Task A_share_with_a_name_asks_for_it()
    {
        using var folder = new TempFolder();
        await using var share = await CloudShare.StartAsync(new() { Folder = folder.At, User = "ida", Password = "gull" });
        using var http = new HttpClient { BaseAddress = new(share.Address) };
        (await http.GetAsync("/")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        http.DefaultRequestHeaders.Authorization = new("Basic", Convert.ToBase64String("ida:tern"u8));
        (await http.GetAsync("/")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        http.DefaultRequestHeaders.Authorization = new("Basic", Convert.ToBase64String("ida:gull"u8));
        (await http.GetAsync("/")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }
}
