using System.Reflection;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Serilog;
using Serilog.Formatting.Compact;
using YardRelay.Records;
using YardRelay.Service;
using YardRelay.Service.Accounts;
using YardRelay.Service.Browsers;
using YardRelay.Service.CarryLists;
using YardRelay.Service.Choosing;
using YardRelay.Service.Clocks;
using YardRelay.Service.Depots;
using YardRelay.Service.Keeping;
using YardRelay.Service.Live;
using YardRelay.Service.Notices;
using YardRelay.Service.Orders;
using YardRelay.Service.Parcels;
using YardRelay.Service.Persons;
using YardRelay.Service.Planning;
using YardRelay.Service.Privacy;
using YardRelay.Service.Problems;
using YardRelay.Service.Reports;
using YardRelay.Service.Rosters;
using YardRelay.Service.Swaps;
using YardRelay.Service.Writing;

// The document generator starts this program to read its endpoints; then nothing is stored or migrated.
var isDocumented = Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";
var builder = WebApplication.CreateBuilder(new WebApplicationOptions
{
    Args = args,
    ContentRootPath = AppContext.BaseDirectory,
    WebRootPath = "console"
});
ServiceOptions options;
try
{
    options = ServiceOptions.Read(new(builder.Configuration));
    if (!isDocumented)
    {
        ShutState.Begin(options);
        KeyRing.Add(builder.Services, ServiceKey.Open(options.Key));
    }
}
catch (BadSettingException bad)
{
    Console.Error.WriteLine(bad.Message);
    Environment.ExitCode = 2;
    return;
}
builder.Host.UseSerilog((_, log) => log.MinimumLevel.Is(options.LogLevel).MinimumLevel
    .Override(
        "Microsoft",
        (Serilog.Events.LogEventLevel)Math.Max(
            (int)options.LogLevel, (int)Serilog.Events.LogEventLevel.Warning)).Enrich.FromLogContext().WriteTo
    .Console(new CompactJsonFormatter()));
builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.Limits.MaxRequestBodySize = 32 << 20;
    // Browsers give a page offline work and the camera only over TLS, or from their own computer.
    if (options.Certificate is { } certificate)
        kestrel.ConfigureHttpsDefaults(https =>
            https.ServerCertificate = System.Security.Cryptography.X509Certificates.X509Certificate2.CreateFromPemFile(
                certificate, options.CertificateKey));
});
if (!isDocumented) builder.WebHost.UseUrls(options.Urls);

builder.Services.AddSingleton(options);
builder.Services.AddSingleton(options.Clock is { } clock ? new PractisedClock(clock) : TimeProvider.System);
builder.Services.AddDbContextFactory<YardDb>(o => RecordsOptions.Use(o, options.Database));
builder.Services.AddScoped(p => p.GetRequiredService<IDbContextFactory<YardDb>>().CreateDbContext());
builder.Services.AddSingleton<IPasswordHasher<AccountRow>, PasswordHasher<AccountRow>>();
builder.Services.AddSingleton<Passwords>();
builder.Services.AddSingleton<AccountDesk>();
builder.Services.AddSingleton<SignInDesk>();
builder.Services.AddSingleton<RecoveryDesk>();
builder.Services.AddSingleton<SecondFactor>();
builder.Services.AddSingleton<SecondAsked>();
builder.Services.AddSingleton<PasskeyDesk>();
builder.Services.AddSingleton<OnceMore>();
builder.Services.AddSingleton<Askings>();
builder.Services.AddSingleton<StaffDesk>();
builder.Services.AddIdentityCore<AccountRow>().AddUserStore<PasskeyStore>();
builder.Services.AddScoped<IPasskeyHandler<AccountRow>, PasskeyHandler<AccountRow>>();
builder.Services.Configure<IdentityPasskeyOptions>(o =>
{
    o.ResidentKeyRequirement = "preferred";
    o.ValidateOrigin = asked => new(asked is { CrossOrigin: false, TopOrigin: null }
        && FromOwnPages.IsOwn(asked.Origin, asked.HttpContext.Request, options.Address));
});
builder.Services.AddSingleton(p => ActivatorUtilities.CreateInstance<Ended>(p, options.Ended));
builder.Services.AddSingleton<Guesses>();
builder.Services.AddSingleton<KnownDevices>();
builder.Services.AddSingleton<PasswordCheck>();
builder.Services.AddScoped<SwapReader>();
builder.Services.AddScoped<YardRelay.Service.Rounds.RoundReader>();
builder.Services.AddScoped<YardRelay.Service.Yards.YardReader>();
builder.Services.AddScoped<YardRelay.Service.OldComputers.OldComputerReader>();
builder.Services.AddScoped<PersonReader>();
builder.Services.AddScoped<DepotReader>();
builder.Services.AddScoped<YardRelay.Service.Worlds.DepotDesk>();
builder.Services.AddScoped<ReportReader>();
builder.Services.AddScoped<YardRelay.Service.Ledgers.LedgerReader>();
builder.Services.AddSingleton<ParcelKeys>();
builder.Services.AddSingleton<DepotSecrets>();
builder.Services.AddSingleton<BuiltInDepot>();
builder.Services.AddSingleton<ServiceDoor>();
builder.Services.AddSingleton<DepotTrial>();
builder.Services.AddSingleton<YardRelay.Service.Days.FullDepots>();
builder.Services.AddScoped<YardRelay.Service.Days.NeedsDesk>();
builder.Services.AddScoped<YardRelay.Service.Readiness.ReadyReader>();
builder.Services.AddScoped<YardRelay.Service.SetUps.SetUpReader>();
builder.Services.AddSingleton<EventHub>();
builder.Services.AddSingleton<LedgerTail>();
builder.Services.AddSingleton<StreamRights>();
builder.Services.AddSingleton<KeptAnswers>();
builder.Services.AddSingleton<Writer>();
builder.Services.AddSingleton<LedgerSigner>();
builder.Services.AddSingleton<ServiceLedger>();
builder.Services.AddSingleton<RefusedSignIns>();
if (!isDocumented) builder.Services.AddHostedService(p => p.GetRequiredService<RefusedSignIns>());
builder.Services.AddSingleton<OrderReports>();
builder.Services.AddSingleton<OrderTaking>();
builder.Services.AddSingleton<OrderEnding>();
builder.Services.AddSingleton<FolderDesk>();
builder.Services.AddSingleton<ReceivedMail>();
if (!isDocumented) builder.Services.AddHostedService<MailInbox>();
builder.Services.AddSingleton<NoticePost>();
if (!isDocumented) builder.Services.AddHostedService(p => p.GetRequiredService<NoticePost>());
builder.Services.AddSingleton<YardRelay.Service.Readiness.MorningPost>();
if (!isDocumented) builder.Services.AddHostedService(p => p.GetRequiredService<YardRelay.Service.Readiness.MorningPost>());
builder.Services.AddSingleton<HeadPost>();
if (!isDocumented) builder.Services.AddHostedService(p => p.GetRequiredService<HeadPost>());
if (!isDocumented) builder.Services.AddHostedService<ServiceHand>();
if (!isDocumented) builder.Services.AddHostedService<MemoryKeeper>();
builder.Services.AddSingleton<DraftDesk>();
builder.Services.AddSingleton<SlotDesk>();
if (!isDocumented) builder.Services.AddHostedService<WaitingLook>();
builder.Services.AddSingleton<ErasureLook>();
if (!isDocumented) builder.Services.AddHostedService(p => p.GetRequiredService<ErasureLook>());
builder.Services.AddSingleton<RosterDesk>();
builder.Services.AddHttpContextAccessor();
if (RecordsOptions.IsPostgres(options.Database) && !isDocumented)
    builder.Services.AddHostedService(p =>
        new PostgresWakeUps(p.GetRequiredService<EventHub>(), options.Database, p.GetRequiredService<ILogger<PostgresWakeUps>>()));
builder.Services.AddHealthChecks().AddCheck<RecordsCheck>("records");
builder.Services.ConfigureHttpJsonOptions(o =>
{
    o.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
    o.SerializerOptions.Converters.Add(new JsonStringEnumConverter(System.Text.Json.JsonNamingPolicy.CamelCase));
    o.SerializerOptions.RespectNullableAnnotations = true;
    o.SerializerOptions.RespectRequiredConstructorParameters = true;
});
builder.Services.AddSingleton<RefreshZones>();
builder.Services.AddSingleton<IConfigureOptions<Microsoft.AspNetCore.Http.Json.JsonOptions>, AnswerTimes>();
UnreadableRequests.Add(builder.Services);
ApiDocument.Add(builder.Services);
Ways.Add(builder.Services, options);
var authentication = builder.Services.AddAuthentication("either")
    .AddPolicyScheme("either", null, o =>
        o.ForwardDefaultSelector = context =>
            context.Request.Headers.Authorization.Count > 0
                ? TokenAuthentication.SchemeName
                : context.Request.Path.StartsWithSegments("/api/person") && context.Request.Cookies.ContainsKey(PersonLinks.Cookie)
                ? PersonLinks.Scheme
                : CookieAuthenticationDefaults.AuthenticationScheme)
    .AddScheme<AuthenticationSchemeOptions, TokenAuthentication>(TokenAuthentication.SchemeName, null)
    .AddCookie(o =>
    {
        o.Cookie.Name = "yardrelay";
        o.Cookie.SameSite = SameSiteMode.Strict;
        o.Cookie.HttpOnly = true;
        // How long it counts says the session that it names.
        o.ExpireTimeSpan = Sessions.Longest;
        o.SlidingExpiration = false;
        o.Events.OnValidatePrincipal = Sessions.ValidateAsync;
        o.Events.OnRedirectToLogin = context => Status(context.HttpContext, 401);
        o.Events.OnRedirectToAccessDenied = context => Status(context.HttpContext, 403);
    })
    .AddCookie(PersonLinks.Scheme, o =>
    {
        o.Cookie.Name = PersonLinks.Cookie;
        o.Cookie.SameSite = SameSiteMode.Strict;
        o.Cookie.HttpOnly = true;
        o.Cookie.Path = "/api/person";
        o.ExpireTimeSpan = PersonLinks.Lives;
        o.SlidingExpiration = false;
        o.Events.OnValidatePrincipal = PersonLinks.ValidateAsync;
        o.Events.OnRedirectToLogin = context => Status(context.HttpContext, 401);
        o.Events.OnRedirectToAccessDenied = context => Status(context.HttpContext, 403);
    });
if (options.Organisation is { } organisation) OrganisationSignIn.Add(authentication, organisation);
builder.Services.AddAuthorization(Roles.Add);

var app = builder.Build();
Ways.Use(app, options, BuiltInDepot.Path, "/health");
app.UseExceptionHandler();
app.UseStatusCodePages();
app.Use(UnreadableRequests.PassAsync);
app.Use(SaidToBrowsers.Say("/api", "/organisation", BuiltInDepot.Path));
app.Use(FromOwnPages.Asked(options.Address));
app.Use((context, next) =>
{
    if (context.Request.Headers.ContainsKey("Idempotency-Key")) context.Request.EnableBuffering();
    return next(context);
});
app.Map(BuiltInDepot.Path, depot => depot.Run(app.Services.GetRequiredService<BuiltInDepot>().HandleAsync));
app.UseDefaultFiles();
app.UseStaticFiles(new StaticFileOptions
{
    OnPrepareResponse = file =>
        file.Context.Response.Headers.CacheControl = file.Context.Request.Path.StartsWithSegments("/assets")
            ? "public, max-age=31536000, immutable"
            : "no-cache"
});
app.UseAuthentication();
app.UseAuthorization();
app.Use(Reach.AskAsync);
app.Use(AnswerTimes.SayZoneAsync);
app.MapOpenApi().AllowAnonymous();
app.MapHealthChecks("/health/live", new() { Predicate = _ => false }).AllowAnonymous();
app.MapHealthChecks("/health/ready").AllowAnonymous();
Endpoints.Map(app.MapGroup("/api").AddEndpointFilter<RouteGroupBuilder, RepeatFilter>());
// What programs ask for and is not there is not a page of the console.
foreach (var area in new[] { "api", "health", "metrics", "openapi" })
    app.Map($"/{area}/{{**rest}}", () =>
            Results.Problem("There is no such address here. See /openapi/v1.json.", statusCode: 404))
        .AllowAnonymous().AlsoForPrograms().ExcludeFromDescription();
if (options.Organisation is not null) OrganisationSignIn.Map(app);
// A person's own page is small and by itself: nothing of the console comes along.
app.MapFallbackToFile("/my/{**rest}", "my.html").AllowAnonymous();
app.MapFallbackToFile("index.html").AllowAnonymous();

try
{
    if (!isDocumented) await StartUp.PrepareAsync(app.Services, options, args, app.Lifetime.ApplicationStopping);
}
catch (Exception strange) when (strange is StrangeDatabaseException or BadSettingException)
{
    Console.Error.WriteLine(strange.Message);
    Environment.ExitCode = 2;
    return;
}
await app.RunAsync();

static Task Status(HttpContext context, int status)
{
    context.Response.StatusCode = status;
    return Task.CompletedTask;
}
