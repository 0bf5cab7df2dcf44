<?php

declare(strict_types=1);

namespace Tests\Support;

use Facebook\WebDriver\Chrome\ChromeOptions;
use Facebook\WebDriver\Exception\NoSuchElementException;
use Facebook\WebDriver\Exception\StaleElementReferenceException;
use Facebook\WebDriver\Remote\DesiredCapabilities;
use Facebook\WebDriver\Remote\RemoteWebDriver;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverDimension;
use Facebook\WebDriver\WebDriverElement;
use RuntimeException;

/** A headless Chromium with its own ChromeDriver and an empty profile, and the few things tests do with a page. */
final class Chromium
{
    /** @var resource */
    private $process;

    private string $profile;

    public RemoteWebDriver $driver;

    /** @param  list<string>  $flags  more of them */
    public function __construct(int $width = 1280, int $height = 800, array $flags = [])
    {
        foreach (['chromedriver', 'chromium'] as $program) {
            if (trim((string) shell_exec("command -v {$program}")) === '') {
                throw new RuntimeException("{$program} is missing (Debian packages chromium and chromium-driver).");
            }
        }
        $port = self::freePort();
        $this->profile = sys_get_temp_dir().'/hafen-chromium-'.bin2hex(random_bytes(5));
        mkdir($this->profile);
        $process = proc_open(
            ['chromedriver', "--port={$port}", '--log-level=SEVERE'],
            [['file', '/dev/null', 'r'], ['file', "{$this->profile}/driver.log", 'w'], ['file', "{$this->profile}/driver.log", 'a']],
            $pipes,
        );
        $this->process = is_resource($process) ? $process : throw new RuntimeException('ChromeDriver did not start.');
        $probe = curl_init("http://127.0.0.1:{$port}/status");
        curl_setopt($probe, CURLOPT_RETURNTRANSFER, true);
        for ($i = 0; $i < 200 && curl_exec($probe) === false; ++$i) {
            usleep(100_000);
        }
        $options = new ChromeOptions;
        $options->addArguments([
            '--headless=new', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking',
            '--disable-component-update', '--disable-sync', '--autoplay-policy=no-user-gesture-required', '--force-device-scale-factor=1',
            "--user-data-dir={$this->profile}/profile", "--window-size={$width},{$height}", ...$flags,
        ]);
        $capabilities = DesiredCapabilities::chrome();
        $capabilities->setCapability(ChromeOptions::CAPABILITY, $options);
        $this->driver = RemoteWebDriver::create("http://127.0.0.1:{$port}", $capabilities, 60_000, 180_000);
        $this->viewport($width, $height);
    }

    /** Makes the page itself so large, whatever the window's frame takes. */
    public function viewport(int $width, int $height): void
    {
        $window = $this->driver->manage()->window();
        $window->setSize(new WebDriverDimension($width, $height));
        /** @var array{int, int} $inner */
        $inner = $this->script('return [window.innerWidth, window.innerHeight]');
        $window->setSize(new WebDriverDimension(2 * $width - $inner[0], 2 * $height - $inner[1]));
    }

    public function quit(): void
    {
        try {
            $this->driver->quit();
        } finally {
            proc_terminate($this->process);
            proc_close($this->process);
            exec('rm -rf '.escapeshellarg($this->profile));
        }
    }

    public function visit(string $url): void
    {
        $this->driver->get($url);
        $this->waitFor('[data-ready=true]');
    }

    public function script(string $code, mixed ...$arguments): mixed
    {
        return $this->driver->executeScript($code, $arguments);
    }

    public function find(string $css): WebDriverElement
    {
        return $this->driver->findElement(WebDriverBy::cssSelector($css));
    }

    public function has(string $css): bool
    {
        return $this->driver->findElements(WebDriverBy::cssSelector($css)) !== [];
    }

    /** Waits until an element is there. */
    public function waitFor(string $css, float $seconds = 120.0): WebDriverElement
    {
        $found = $this->until(function () use ($css): ?WebDriverElement {
            $element = $this->find($css);

            return $element->isDisplayed() ? $element : null;
        }, "\"{$css}\" to appear", $seconds);
        assert($found instanceof WebDriverElement);

        return $found;
    }

    /**
     * Waits until something holds and gives it back; there is no deadline a slow machine could miss by chance.
     * An element that is not there yet, or was just replaced, means: not yet.
     *
     * @param  callable(): mixed  $condition
     */
    public function until(callable $condition, string $what, float $seconds = 60.0): mixed
    {
        $end = microtime(true) + $seconds;
        do {
            try {
                $result = $condition();
            } catch (NoSuchElementException|StaleElementReferenceException) {
                $result = null;
            }
            if ($result !== null && $result !== false) {
                return $result;
            }
            usleep(80_000);
        } while (microtime(true) < $end);
        throw new RuntimeException("Waited {$seconds} s in vain for {$what}.");
    }

    public function screenshot(string $path): void
    {
        $this->driver->takeScreenshot($path);
    }

    /** @return list<string> what the page complained of */
    public function complaints(): array
    {
        $entries = $this->driver->manage()->getLog('browser');

        return array_values(array_map(
            static fn (array $entry): string => (string) $entry['message'],
            array_filter($entries, static fn (array $entry): bool => $entry['level'] === 'SEVERE'),
        ));
    }

    private static function freePort(): int
    {
        $socket = stream_socket_server('tcp://127.0.0.1:0') ?: throw new RuntimeException('No free port.');
        $port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);

        return $port;
    }
}
