using System.Net;
using System.Net.Http.Headers;
using System.Xml.Linq;
using CsCheck;
using YardRelay.Peers;

namespace YardRelay.Dav.Tests;

/// <summary>What clients rely on that the suite litmus does not ask for.</summary>
public sealed class ShareTests : IAsyncLifetime
{
    private readonly TempFolder _folder = new();
    private CloudShare _share = null!;
    private HttpClient _http = null!;

    public async ValueTask InitializeAsync()
    {
        _share = await CloudShare.StartAsync(new() { Folder = _folder.At, QuotaBytes = 50_000 });
        _http = new() { BaseAddress = new(_share.Address) };
    }

    private async Task<HttpResponseMessage> SendAsync(string method, string path, string? body = null, params (string, string)[] headers)
    {
        var request = new HttpRequestMessage(new(method), path);
        if (body is not null) request.Content = new StringContent(body);
        foreach (var (name, value) in headers) request.Headers.TryAddWithoutValidation(name, value);
        return await _http.SendAsync(request);
    }

    private async Task<HttpStatusCode> StatusAsync(string method, string path, string? body = null, params (string, string)[] headers)
    {
        using var response = await SendAsync(method, path, body, headers);
        return response.StatusCode;
    }

    private (string, string) To(string path) => ("Destination", new Uri(_http.BaseAddress!, path).AbsoluteUri);

    private const string WriteLock = "<lockinfo xmlns=\"DAV:\"><lockscope><exclusive/></lockscope><locktype><write/></locktype></lockinfo>";

    [Fact]
    public async Task A_range_is_answered_with_just_those_bytes_and_one_beyond_the_end_is_refused()
    {
        await SendAsync("PUT", "letters", "abcdefghij");
        using var request = new HttpRequestMessage(HttpMethod.Get, "letters") { Headers = { Range = new(2, 5) } };
        using var part = await _http.SendAsync(request);
        (part.StatusCode, await part.Content.ReadAsStringAsync()).ShouldBe((HttpStatusCode.PartialContent, "cdef"));
        part.Content.Headers.ContentRange!.ToString().ShouldBe("bytes 2-5/10");
        (await StatusAsync("GET", "letters", null, ("Range", "bytes=50-60"))).ShouldBe(HttpStatusCode.RequestedRangeNotSatisfiable);
    }

    private async Task<HttpStatusCode> PutPartAsync(string name, string text, long from)
    {
        using var some = new HttpRequestMessage(HttpMethod.Put, name)
        {
            Content = new StringContent(text) { Headers = { ContentRange = new(from, from + text.Length - 1, 10) } }
        };
        return (await _http.SendAsync(some)).StatusCode;
    }

    [Fact]
    public async Task A_part_goes_where_it_belongs_once_or_twice_and_the_rest_stays()
    {
        await SendAsync("PUT", "letters", "abcdefghij");
        for (var again = 0; again < 2; again++) (await PutPartAsync("letters", "XX", 2)).ShouldBe(HttpStatusCode.NoContent);
        (await _http.GetStringAsync("letters")).ShouldBe("abXXefghij");
    }

    [Fact]
    public async Task A_file_grows_part_by_part_and_never_has_a_hole()
    {
        (await PutPartAsync("grows", "abcd", 0)).ShouldBe(HttpStatusCode.Created);
        (await PutPartAsync("grows", "ij", 8)).ShouldBe(HttpStatusCode.RequestedRangeNotSatisfiable);
        (await PutPartAsync("grows", "efghij", 4)).ShouldBe(HttpStatusCode.NoContent);
        (await _http.GetStringAsync("grows")).ShouldBe("abcdefghij");
    }

    [Theory]
    [InlineData("bytes 5-2/10")]
    [InlineData("bytes 2-9/10")]
    [InlineData("lines 2-3/10")]
    [InlineData("bytes */10")]
    public async Task A_part_that_says_where_it_belongs_in_a_wrong_way_changes_nothing(string range)
    {
        await SendAsync("PUT", "letters", "abcdefghij");
        using var wrong = new HttpRequestMessage(HttpMethod.Put, "letters") { Content = new StringContent("XX") };
        wrong.Content.Headers.TryAddWithoutValidation("Content-Range", range);
        (await _http.SendAsync(wrong)).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await _http.GetStringAsync("letters")).ShouldBe("abcdefghij");
    }

    [Fact]
    public async Task Uploads_go_on_when_another_server_of_the_folder_cleared_away_where_they_grow()
    {
        (await StatusAsync("PUT", "before", "a")).ShouldBe(HttpStatusCode.Created);
        await using (await CloudShare.StartAsync(new() { Folder = _folder.At }))
            (await StatusAsync("PUT", "after", "b")).ShouldBe(HttpStatusCode.Created);
        (await _http.GetStringAsync("after")).ShouldBe("b");
    }

    [Fact]
    public async Task A_look_at_the_head_says_how_long_it_is_and_sends_nothing()
    {
        await SendAsync("PUT", "letters", "abcdefghij");
        using var head = await SendAsync("HEAD", "letters");
        (head.Content.Headers.ContentLength, (await head.Content.ReadAsByteArrayAsync()).Length).ShouldBe((10, 0));
    }

    [Fact]
    public async Task Of_two_that_write_on_the_same_version_the_second_is_refused()
    {
        using var first = await SendAsync("PUT", "plan", "one");
        var version = first.Headers.ETag!.ToString();
        (await StatusAsync("PUT", "plan", "two!", ("If-Match", version))).ShouldBe(HttpStatusCode.NoContent);
        (await StatusAsync("PUT", "plan", "three", ("If-Match", version))).ShouldBe(HttpStatusCode.PreconditionFailed);
        (await StatusAsync("PUT", "plan", "four", ("If-None-Match", "*"))).ShouldBe(HttpStatusCode.PreconditionFailed);
        (await StatusAsync("PUT", "other", "five", ("If-Match", "*"))).ShouldBe(HttpStatusCode.PreconditionFailed);
        (await StatusAsync("GET", "plan", null, ("If-None-Match", (await SendAsync("HEAD", "plan")).Headers.ETag!.ToString())))
            .ShouldBe(HttpStatusCode.NotModified);
        (await _http.GetStringAsync("plan")).ShouldBe("two!");
        // Many that make one name at once: one makes it.
        var made = await Task.WhenAll(Enumerable.Range(0, 12).Select(i => StatusAsync("PUT", "once", $"by {i}", ("If-None-Match", "*"))));
        made.Count(m => m == HttpStatusCode.Created).ShouldBe(1);
    }

    [Fact]
    public async Task A_locked_file_is_changed_only_by_who_holds_the_lock_and_by_everybody_after_it_ran_out()
    {
        await SendAsync("PUT", "book", "locked");
        using var locked = await SendAsync("LOCK", "book", WriteLock, ("Timeout", "Second-2"));
        var token = locked.Headers.GetValues("Lock-Token").Single();
        foreach (var (method, more) in new[]
        {
            ("PUT", default((string, string)?)),
            ("DELETE", null),
            ("MOVE", To("elsewhere")),
            ("PROPPATCH", null),
            ("LOCK", null)
        })
            (await StatusAsync(
                method,
                "book",
                method == "LOCK"
                    ? WriteLock
                    : method == "PROPPATCH"
                    ? "<propertyupdate xmlns=\"DAV:\"><set><prop><x xmlns=\"u:\">1</x></prop></set></propertyupdate>"
                    : "x",
                more is { } m ? [m] : []))
                .ShouldBe(HttpStatusCode.Locked, method);
        (await StatusAsync("COPY", "book", null, To("copied"))).ShouldBe(HttpStatusCode.Created, "reading needs no lock");
        (await StatusAsync("PUT", "book", "mine", ("If", $"({token})"))).ShouldBe(HttpStatusCode.NoContent);
        (await StatusAsync("PUT", "book", "not mine", ("If", "(<opaquelocktoken:none>)"))).ShouldBe(HttpStatusCode.PreconditionFailed);
        (await StatusAsync("UNLOCK", "book", null, ("Lock-Token", "<opaquelocktoken:none>"))).ShouldBe(HttpStatusCode.Conflict);
        await Task.Delay(2300, TestContext.Current.CancellationToken);
        (await StatusAsync("PUT", "book", "everybody's")).ShouldBe(HttpStatusCode.NoContent);
        (await _http.GetStringAsync("book")).ShouldBe("everybody's");
    }

    private async Task DeepAsync()
    {
        await SendAsync("MKCOL", "a");
        await SendAsync("MKCOL", "a/b");
        await SendAsync("PUT", "a/b/c", "deep");
    }

    [Fact]
    public async Task A_folder_is_made_once_and_only_in_one_that_is_there()
    {
        await DeepAsync();
        (await StatusAsync("MKCOL", "a/b")).ShouldBe(HttpStatusCode.MethodNotAllowed);
        (await StatusAsync("MKCOL", "x/y")).ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task A_folder_is_copied_with_all_that_is_in_it_or_alone_when_that_is_asked()
    {
        await DeepAsync();
        (await StatusAsync("COPY", "a", null, To("copy"))).ShouldBe(HttpStatusCode.Created);
        (await StatusAsync("COPY", "a", null, To("flat"), ("Depth", "0"))).ShouldBe(HttpStatusCode.Created);
        foreach (var folder in new[] { "a", "copy" }) (await _http.GetStringAsync($"{folder}/b/c")).ShouldBe("deep");
        Directory.GetFileSystemEntries(_folder["flat"]).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_folder_is_moved_with_all_that_is_in_it()
    {
        await DeepAsync();
        (await StatusAsync("MOVE", "a", null, To("moved"), ("Overwrite", "F"))).ShouldBe(HttpStatusCode.Created);
        (await _http.GetStringAsync("moved/b/c")).ShouldBe("deep");
        (await StatusAsync("GET", "a")).ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_folder_goes_neither_over_another_nor_into_itself_nor_to_where_nothing_is()
    {
        await DeepAsync();
        await SendAsync("MKCOL", "other");
        (await StatusAsync("MOVE", "a", null, To("other"), ("Overwrite", "F"))).ShouldBe(HttpStatusCode.PreconditionFailed);
        (await StatusAsync("MOVE", "a", null, To("a/b/inside"))).ShouldBeOneOf(HttpStatusCode.Forbidden, HttpStatusCode.Conflict);
        (await StatusAsync("MOVE", "a", null, To("no/such/place"))).ShouldBe(HttpStatusCode.Conflict);
        (await StatusAsync("COPY", "a", null, ("Destination", "http://elsewhere.example/x"))).ShouldBe(HttpStatusCode.BadGateway);
        (await _http.GetStringAsync("a/b/c")).ShouldBe("deep");
    }

    [Fact]
    public async Task What_is_copied_counts_against_the_quota_and_what_is_overwritten_is_given_back()
    {
        await SendAsync("PUT", "a", new string('x', 20_000));
        (await StatusAsync("COPY", "a", null, To("b"))).ShouldBe(HttpStatusCode.Created);
        (await StatusAsync("COPY", "a", null, To("c"))).ShouldBe(HttpStatusCode.InsufficientStorage);
        File.Exists(_folder["c"]).ShouldBeFalse();
        (await StatusAsync("COPY", "a", null, To("b"))).ShouldBe(HttpStatusCode.NoContent);
        (await StatusAsync("MOVE", "a", null, To("b"))).ShouldBe(HttpStatusCode.NoContent);
        (await StatusAsync("PUT", "d", new string('y', 30_000))).ShouldBe(HttpStatusCode.Created);
        (await StatusAsync("PUT", "e", "y")).ShouldBe(HttpStatusCode.InsufficientStorage);
    }

    [Fact]
    public async Task Any_name_comes_back_in_a_list_as_it_was_given_and_properties_move_with_their_file()
    {
        await SendAsync("MKCOL", "names");
        string[] names = [
            "plain", "with space", "Möwe", "a+b&c", "semi;colon=1", "100=25", "<tag>", "quote\"s'", "日本", "🚢", "~tilde", "(1)"
        ];
        foreach (var name in names)
            (await StatusAsync("PUT", $"names/{Uri.EscapeDataString(name)}", name)).ShouldBe(HttpStatusCode.Created, name);
        using var listed = await SendAsync("PROPFIND", "names/", null, ("Depth", "1"));
        var found = XDocument.Parse(await listed.Content.ReadAsStringAsync())
            .Descendants("{DAV:}href")
            .Select(h => Uri.UnescapeDataString(new Uri(_http.BaseAddress!, h.Value).AbsolutePath))
            .Where(p => !p.EndsWith('/'))
            .Select(p => p["/names/".Length..]);
        found.Order(StringComparer.Ordinal).ShouldBe(names.Order(StringComparer.Ordinal));
        await SendAsync(
            "PROPPATCH",
            "names/plain",
            "<propertyupdate xmlns=\"DAV:\"><set><prop><colour xmlns=\"urn:k\">teal &amp; grey</colour></prop></set></propertyupdate>");
        await SendAsync("MOVE", "names/plain", null, To("names/other"));
        using var asked = await SendAsync(
            "PROPFIND",
            "names/other",
            "<propfind xmlns=\"DAV:\"><prop><colour xmlns=\"urn:k\"/><none xmlns=\"urn:k\"/></prop></propfind>",
            ("Depth", "0"));
        var told = XDocument.Parse(await asked.Content.ReadAsStringAsync());
        told.Descendants("{urn:k}colour").Single().Value.ShouldBe("teal & grey");
        told.Descendants("{DAV:}propstat")
            .Single(p => p.Descendants("{urn:k}none").Any())
            .Element("{DAV:}status")!.Value
            .ShouldContain("404");
    }

    [Fact]
    public async Task A_request_that_is_not_well_formed_is_refused_and_changes_nothing()
    {
        await SendAsync("PUT", "f", "content");
        (await StatusAsync("PROPFIND", "f", "<propfind xmlns=\"DAV:\"><unclosed>")).ShouldBe(HttpStatusCode.BadRequest);
        (await StatusAsync("PROPPATCH", "f", "no xml")).ShouldBe(HttpStatusCode.BadRequest);
        (await StatusAsync(
            "PROPFIND",
            "f",
            "<!DOCTYPE x [<!ENTITY e SYSTEM \"file:///etc/passwd\">]><propfind xmlns=\"DAV:\"><prop><a>&e;</a></prop></propfind>"))
            .ShouldBe(HttpStatusCode.BadRequest);
        (await StatusAsync("MOVE", "f")).ShouldBe(HttpStatusCode.BadRequest);
        (await StatusAsync("PUT", "f", "x", ("If", "(<unclosed"))).ShouldBe(HttpStatusCode.BadRequest);
        (await StatusAsync("BREW", "f")).ShouldBe(HttpStatusCode.MethodNotAllowed);
        (await _http.GetStringAsync("f")).ShouldBe("content");
    }

    [Fact]
    public void An_If_header_of_any_text_is_read_or_refused_and_what_is_read_holds_as_the_standard_says() =>
        Gen.Select(Gen.String["()<>[]\"Not abc*/:"], Gen.Bool).Sample((text, locked) =>
        {
            if (IfHeader.TryParse(text) is not { } read) return;
            var tokens = read.Tokens.ToList();
            foreach (var token in tokens) text.ShouldContain($"<{token}>");
            read.Holds((_, _) => locked, _ => null).ShouldBeOneOf(true, false);
            IfHeader.TryParse(null)!.Holds((_, _) => false, _ => null).ShouldBeTrue();
            IfHeader.TryParse("(<a> [\"e\"]) (Not <b>)")!.Holds((_, token) => token == "b" ? locked : locked, _ => "\"e\"").ShouldBeTrue();
        });

    public async ValueTask DisposeAsync()
    {
        _http.Dispose();
        await _share.DisposeAsync();
        _folder.Dispose();
    }
}
