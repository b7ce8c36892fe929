using System.Text;
using Microsoft.Playwright;
using QRCoder;
using YardRelay.Peers;
using static Microsoft.Playwright.Assertions;

namespace YardRelay.EndToEnd;

/// <summary>
/// A technician at a desk with a phone: labels read by its camera, photos also without a network, and what goes otherwise.
/// </summary>
public sealed class DeskTests(RunningYard yard, Chromium chromium) : IClassFixture<RunningYard>
{
    private const string WithPhoto = """
        name: Desk with a photo
        kinds: [renew]
        steps:
          - { key: old-tag, phase: swap, title: Right old computer, kind: scan, expects: old }
          - { key: desk, phase: swap, title: The desk as it was, kind: photo }
          - { key: swapped, phase: swap, title: Swapped, kind: tick, marks: swapped, on: new }
        """;

    /// <summary>What a camera sees of a label: a code in the middle of a grey desk, as raw frames (YUV4MPEG2).</summary>
    private static void Film(string file, string text)
    {
        const int Width = 640, Height = 480, Module = 9;
        using var maker = new QRCodeGenerator();
        using var code = maker.CreateQrCode(text, QRCodeGenerator.ECCLevel.M);
        var (rows, grey) = (code.ModuleMatrix, new byte[Width * Height]);
        Array.Fill(grey, (byte)190);
        var (left, top) = ((Width - (rows.Count * Module)) / 2, (Height - (rows.Count * Module)) / 2);
        for (var y = 0; y < rows.Count * Module; y++)
            for (var x = 0; x < rows.Count * Module; x++)
                grey[((top + y) * Width) + left + x] = rows[y / Module][x / Module] ? (byte)30 : (byte)235;
        var colour = Enumerable.Repeat((byte)128, Width * Height / 2).ToArray();
        using var film = File.Create(file);
        film.Write(Encoding.ASCII.GetBytes($"YUV4MPEG2 W{Width} H{Height} F10:1 Ip A1:1 C420jpeg\n"));
        for (var frame = 0; frame < 3; frame++)
        {
            film.Write("FRAME\n"u8);
            film.Write(grey);
            film.Write(colour);
        }
    }

    [Fact]
    public async Task The_camera_reads_the_label_a_photo_waits_for_the_network_and_a_dead_computer_is_replaced()
    {
        yard.Line("account", "set", "noor", "--name", "Noor Haddad", "--role", "technician", "--site", "North Quay", "Lantern Point");
        await File.WriteAllTextAsync(yard.Folder["photo.yaml"], WithPhoto, TestContext.Current.CancellationToken);
        yard.Line("checklist", "add", yard.Folder["photo.yaml"]);
        yard.Line("swap", "checklist", "spring-0002", "--template", "Desk with a photo", "--move");
        yard.Line("spare", "set", "KB-90", "--site", "Lantern Point");
        Film(yard.Folder["label.y4m"], "KB-2");
        using var wire = new CutWire(new Uri(yard.Address).Port);
        await using var browser = await Browsers.LaunchAsync(
            chromium.Playwright,
            "--use-fake-device-for-media-stream",
            "--use-fake-ui-for-media-stream",
            $"--use-file-for-fake-video-capture={yard.Folder["label.y4m"]}");
        var context = await browser.NewContextAsync(new()
        {
            BaseURL = wire.Address,
            ViewportSize = new() { Width = 390, Height = 844 },
            ReducedMotion = ReducedMotion.Reduce,
            Permissions = ["camera"]
        });
        context.SetDefaultTimeout(Browsers.Patience);
        var page = await context.NewPageAsync();
        await page.GotoAsync("/");
        await page.GetByLabel("Name").FillAsync("noor");
        await page.Locator("input[type=password]").FillAsync("kestrel-bay-ferries");
        await page.Keyboard.PressAsync("Enter");
        await page.GetByRole(AriaRole.Navigation).WaitForAsync();
        await page.EvaluateAsync("() => navigator.serviceWorker.ready")
            .WaitAsync(TimeSpan.FromMinutes(5), TestContext.Current.CancellationToken);
        await page.GotoAsync("/swaps/spring-0002");
        var checklist = page.GetByRole(AriaRole.Region, new() { Name = "Checklist" });

        await checklist.GetByRole(AriaRole.Button, new() { Name = "Right old computer" }).First.ClickAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Camera" }).ClickAsync();
        await Expect(checklist.GetByRole(AriaRole.Button, new() { Name = "done: Right old computer" })).ToBeVisibleAsync();

        // A photo taken where there is no network waits on the device, over a reload too, and is kept without its place.
        wire.Cut();
        byte[] file = [.. Convert.FromBase64String(
            "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==")];
        var secret = Encoding.ASCII.GetBytes("54.1865, -4.4821");
        byte[] withPlace = [.. file[..33], 0, 0, 0, (byte)secret.Length, .. "tEXt"u8, .. secret, 0, 0, 0, 0, .. file[33..]];
        await checklist.GetByRole(AriaRole.Button, new() { Name = "The desk as it was" }).First.ClickAsync();
        await page.GetByLabel("Photo").SetInputFilesAsync(new FilePayload
        {
            Name = "desk.png",
            MimeType = "image/png",
            Buffer = withPlace
        });
        await Expect(page.GetByAltText("As it will be kept")).ToBeVisibleAsync();
        await page.GetByRole(AriaRole.Button, new() { Name = "Keep it" }).ClickAsync();
        await Expect(page.GetByText("No network. 1 step on this device waits to be sent")).ToBeVisibleAsync();
        await page.ReloadAsync();
        await Expect(page.GetByText("No network. 1 step")).ToBeVisibleAsync();
        wire.Mend();
        var shown = page.GetByAltText("Taken for: The desk as it was");
        await Expect(shown).ToBeVisibleAsync();
        var kept = await (await page.APIRequest.GetAsync(
            new Uri(new Uri(yard.Address), (await shown.GetAttributeAsync("src"))!).AbsoluteUri,
            new()
            {
                Headers = new Dictionary<string, string>
                {
                    ["Cookie"] = string.Join("; ", (await context.CookiesAsync()).Select(c => $"{c.Name}={c.Value}"))
                }
            })).BodyAsync();
        kept.ShouldBe(file);

        // The new computer stays dark: what follows is read first, then done; somebody else sees it at once.
        await page.GetByRole(AriaRole.Button, new() { Name = "Goes otherwise…" }).ClickAsync();
        var dialog = page.GetByRole(AriaRole.Dialog);
        var dead = dialog.GetByRole(AriaRole.Button, new() { Name = "The new computer does not work" });
        await Expect(dead).ToBeVisibleAsync();
        await Expect(dialog.GetByRole(AriaRole.Button, new() { Name = "Call the swap off" })).ToHaveCountAsync(0);
        await dead.ClickAsync();
        await dialog.GetByLabel("Why?").FillAsync("no picture");
        await dialog.GetByRole(AriaRole.Button, new() { Name = "See what follows" }).ClickAsync();
        await Expect(dialog.GetByRole(AriaRole.Status)).ToContainTextAsync("KB-90 takes its place; it lies at Lantern Point");
        yard.Line("spare", "list").ShouldNotContain("KB-12");
        await dialog.GetByRole(AriaRole.Button, new() { Name = "Do it" }).ClickAsync();
        await Expect(page.GetByText("KB-2 → KB-90")).ToBeVisibleAsync();
        yard.Line("spare", "list").ShouldContain("KB-12");
        yard.Line("swap", "show", "spring-0002").ShouldContain("KB-12 of Sol Okafor is dead on arrival: no picture");
        yard.Line("ledger", "check");
    }
}
