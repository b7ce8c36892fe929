using System.Net;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

/// <summary>What tests of people's own pages share: a device that opened a person's link, and what it can ask.</summary>
public abstract class OwnPages(RunningService service) : Morning(service)
{
    /// <summary>A link as the person has it from their own mail.</summary>
    protected async Task<string> SecretAsync(string swap)
    {
        var secret = await HandedSecretAsync(swap);
        await Service.WithRecordsAsync(db => db.Links.Where(l => l.Swap == swap)
            .ExecuteUpdateAsync(l => l.SetProperty(r => r.Way, "mail")));
        return secret;
    }

    /// <summary>A link that kit hands over.</summary>
    protected async Task<string> HandedSecretAsync(string swap) =>
        (await OkAsync<PersonLinkMade>(PostAsync<object>($"swaps/{swap}/person-links", new { }))).Address!.Split('#')[1];

    protected static Task<HttpResponseMessage> OpenAsync(HttpClient device, string secret) =>
        device.PostAsJsonAsync("api/person/session", new PersonLinkOpened(secret));

    protected static async Task<PersonPage> PageAsync(HttpClient device) => await OkAsync<PersonPage>(device.GetAsync("api/person"));

    protected static Task<HttpResponseMessage> PutAsync<T>(HttpClient device, string path, T body) =>
        device.PutAsJsonAsync($"api/person/{path}", body, RunningService.Json);

    protected static Task<HttpResponseMessage> PostAsync<T>(HttpClient device, string path, T body) =>
        device.PostAsJsonAsync($"api/person/{path}", body, RunningService.Json);

    protected async Task<HttpClient> DeviceAsync(string swap)
    {
        var device = Service.Browser();
        (await OpenAsync(device, await SecretAsync(swap))).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        return device;
    }
}
