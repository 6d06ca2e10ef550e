<?php
// Prints, for a tree of PHP files, which file names what another declares, as
// an independent parser (Debian's php-parser) resolves it: see ../compare.
//
//	usage: php pairs.php FOLDER > PAIRS.tsv
//
// A name that several files declare is "maybe" each of them.
require '/usr/share/php/PhpParser/autoload.php';

use PhpParser\Node;
use PhpParser\Node\Expr;
use PhpParser\Node\Stmt;

ini_set('memory_limit', '-1');
$root = rtrim(realpath($argv[1]), '/') . '/';
$files = [];
foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator($root, FilesystemIterator::SKIP_DOTS)) as $f) {
    if ($f->isFile() && !$f->isLink() && preg_match('/\.(php|phtml|php5|php7|inc)$/', $f->getFilename())) {
        $files[] = substr($f->getPathname(), strlen($root));
    }
}
sort($files);
$parser = (new PhpParser\ParserFactory)->create(PhpParser\ParserFactory::PREFER_PHP7);

class Gather extends PhpParser\NodeVisitorAbstract
{
    public $uses = [], $declares = [], $includes = [], $defines = [];

    private function add(string $kind, ?Node $n): void
    {
        if ($n instanceof Node\Name) {
            $full = $n->getAttribute('resolvedName') ?? $n;
            $namespaced = $n->getAttribute('namespacedName');
            $this->uses[] = [$kind, ($n->isSpecialClassName() ? '' : $full->toString()), $namespaced ? $namespaced->toString() : null];
        } elseif ($n instanceof Node\NullableType) {
            $this->add($kind, $n->type);
        } elseif ($n instanceof Node\UnionType || $n instanceof Node\IntersectionType) {
            foreach ($n->types as $t) {
                $this->add($kind, $t);
            }
        }
    }

    public function enterNode(Node $n)
    {
        if ($n instanceof Stmt\ClassLike) {
            if ($n->name) {
                $this->declares[] = ['class', $n->namespacedName->toString()];
            }
            foreach (array_merge($n instanceof Stmt\Interface_ ? $n->extends : [], $n->implements ?? [],
                $n instanceof Stmt\Class_ && $n->extends ? [$n->extends] : []) as $s) {
                $this->add('class', $s);
            }
        } elseif ($n instanceof Stmt\TraitUse) {
            foreach ($n->traits as $t) {
                $this->add('class', $t);
            }
        } elseif ($n instanceof Stmt\Function_) {
            $this->declares[] = ['function', $n->namespacedName->toString()];
            $this->add('class', $n->returnType);
        } elseif ($n instanceof Stmt\Const_) {
            foreach ($n->consts as $c) {
                $this->declares[] = ['const', $c->namespacedName->toString()];
                $this->defines[$c->namespacedName->toString()] = $c->value;
            }
        } elseif ($n instanceof Stmt\ClassMethod || $n instanceof Expr\Closure || $n instanceof Expr\ArrowFunction) {
            $this->add('class', $n->returnType);
        } elseif ($n instanceof Stmt\Property || $n instanceof Node\Param) {
            $this->add('class', $n->type);
        } elseif ($n instanceof Stmt\Catch_) {
            foreach ($n->types as $t) {
                $this->add('class', $t);
            }
        } elseif ($n instanceof Expr\New_ || $n instanceof Expr\Instanceof_ || $n instanceof Expr\StaticCall
            || $n instanceof Expr\StaticPropertyFetch || $n instanceof Expr\ClassConstFetch) {
            $this->add('class', $n->class);
        } elseif ($n instanceof Node\Attribute) {
            $this->add('class', $n->name);
        } elseif ($n instanceof Stmt\TraitUseAdaptation) {
            $this->add('class', $n->trait);
            foreach ($n->insteadof ?? [] as $t) {
                $this->add('class', $t);
            }
        } elseif ($n instanceof Expr\ConstFetch) {
            $this->add('const', $n->name);
        } elseif ($n instanceof Expr\Include_) {
            $this->includes[] = $n->expr;
        } elseif ($n instanceof Stmt\Use_) {
            foreach ($n->uses as $u) {
                $this->uses[] = [[1 => 'class', 2 => 'function', 3 => 'const'][$n->type] ?? 'class', $u->name->toString(), null];
            }
        } elseif ($n instanceof Stmt\GroupUse) {
            foreach ($n->uses as $u) {
                $t = $n->type ?: $u->type;
                $this->uses[] = [[1 => 'class', 2 => 'function', 3 => 'const'][$t] ?? 'class', $n->prefix . '\\' . $u->name, null];
            }
        } elseif ($n instanceof Expr\FuncCall && $n->name instanceof Node\Name) {
            $this->add('function', $n->name);
            if (strtolower($n->name->toString()) == 'define' && count($n->args) > 1 && $n->args[0]->value instanceof Node\Scalar\String_) {
                $this->declares[] = ['const', $n->args[0]->value->value];
                $this->defines[$n->args[0]->value->value] = $n->args[1]->value;
            }
        }
    }
}

$said = $of = $defines = [];
foreach ($files as $f) {
    try {
        $t = $parser->parse(file_get_contents($root . $f));
    } catch (PhpParser\Error $e) {
        fwrite(STDERR, "$f: {$e->getMessage()}\n");
        continue;
    }
    $g = new Gather;
    $tr = new PhpParser\NodeTraverser;
    $tr->addVisitor(new PhpParser\NodeVisitor\NameResolver(null, ['preserveOriginalNames' => false, 'replaceNodes' => false]));
    $tr->addVisitor($g);
    $tr->traverse($t);
    $said[$f] = $g;
    foreach ($g->declares as [$kind, $name]) {
        $of[key_of($kind, $name)][$f] = true;
    }
    foreach ($g->defines as $name => $value) {
        $defines[$name][$f] = $value;
    }
    echo "file\t$f\n";
}

function key_of(string $kind, string $name): string
{
    $p = strrpos($name, '\\');
    return $kind . ' ' . ($kind == 'const' && $p !== false ? strtolower(substr($name, 0, $p)) . substr($name, $p) : ($kind == 'const' ? $name : strtolower($name)));
}

/** All texts that an expression may be; a constant that several files define has one for each. */
function folded(Expr $e, string $file, int $depth = 0): array
{
    global $root, $defines;
    if ($depth > 10) {
        return [];
    }
    $name = $e instanceof Expr\FuncCall && $e->name instanceof Node\Name ? strtolower($e->name->toString()) : '';
    $all = [];
    switch (true) {
        case $e instanceof Node\Scalar\String_:
            return [$e->value];
        case $e instanceof Node\Scalar\MagicConst\Dir:
            return [dirname($root . $file)];
        case $e instanceof Node\Scalar\MagicConst\File:
            return [$root . $file];
        case $e instanceof Expr\BinaryOp\Concat:
            foreach (folded($e->left, $file, $depth + 1) as $l) {
                foreach (folded($e->right, $file, $depth + 1) as $r) {
                    $all[] = $l . $r;
                }
            }
            return array_slice($all, 0, 50);
        case $name == 'dirname':
            foreach (folded($e->args[0]->value, $file, $depth + 1) as $p) {
                $all[] = dirname($p, isset($e->args[1]) ? $e->args[1]->value->value : 1);
            }
            return $all;
        case $name == 'realpath':
            return folded($e->args[0]->value, $file, $depth + 1);
        case $e instanceof Expr\ConstFetch && $e->name->toString() == 'DIRECTORY_SEPARATOR':
            return ['/'];
        case $e instanceof Expr\ConstFetch:
            foreach ($defines[$e->name->toString()] ?? [] as $in => $value) {
                $all = array_merge($all, folded($value, $in, $depth + 1));
            }
            return array_slice(array_unique($all), 0, 50);
    }
    return [];
}

$out = [];
foreach ($said as $f => $g) {
    foreach ($g->uses as [$kind, $name, $namespaced]) {
        foreach ([$namespaced, $name] as $n) {
            $to = $n === null ? [] : ($of[key_of($kind, $n)] ?? []);
            foreach ($to as $t => $_) {
                if ($t != $f) {
                    $out[count($to) > 1 ? "maybe\t$f\t$t" : "$f\t$t"] = true;
                }
            }
            if ($to) {
                break;
            }
        }
    }
    foreach ($g->includes as $e) {
        $all = folded($e, $f);
        foreach ($all as $p) {
            $from = dirname($root . $f);
            do {
                $real = realpath($p[0] == '/' ? $p : "$from/$p");
                if ($real && is_file($real) && strpos($real, $root) === 0) {
                    $to = substr($real, strlen($root));
                    if ($to != $f) {
                        $out[count($all) > 1 ? "maybe\t$f\t$to" : "$f\t$to"] = true;
                    }
                    break;
                }
                $from = dirname($from);
            } while ($p[0] != '/' && strlen($from) >= strlen($root) - 1);
        }
    }
}
echo implode("\n", array_keys($out)), "\n";
