#!/usr/bin/env python3
"""Makes the shape of many captures with Apache Spark: each task runs `vetta shape -o -` over some of the
files, and pairs of shapes are merged until one is left. The result is byte for byte what one run over all
of them saves.

    shape_spark.py [--vetta PROGRAM] [--files-per-task N] -o FILE PATH...

PATH is a folder or a file that all workers see under the same name; NAME.headers and NAME.meta.json go with
the body that they tell of. Needs pyspark (PyPI) and a JDK; spark-submit runs it on a cluster, python3 on
this machine alone.
"""
import argparse
import os
import subprocess
import sys
import tempfile

from pyspark.sql import SparkSession


def files_in(paths):
    """The files of some paths, each once, sorted."""
    found = set()
    for path in paths:
        if os.path.isfile(path):
            found.add(path)
        for folder, inner, names in os.walk(path):
            inner[:] = [name for name in inner if not name.startswith(".")]
            found.update(os.path.join(folder, name) for name in names if not name.startswith("."))
    return sorted(found)


def run(vetta, paths):
    """What `vetta shape -o -` saves of some captures or shapes."""
    done = subprocess.run([vetta, "shape", "-config", "none", "-o", "-", "--", *paths], stdout=subprocess.PIPE, stderr=subprocess.PIPE)
    if not done.stdout:
        said = done.stderr.decode(errors="replace")
        if "no captures were found" in said or "nothing to read" in said:
            return None
        raise RuntimeError(said)
    return done.stdout


def merge(vetta):
    """A function that merges two shapes, either of which may be None."""
    def merged(a, b):
        if a is None or b is None:
            return a or b
        with tempfile.TemporaryDirectory() as folder:
            paths = []
            for i, shape in enumerate((a, b)):
                paths.append(os.path.join(folder, f"{i}.shape"))
                with open(paths[-1], "wb") as out:
                    out.write(shape)
            return run(vetta, paths)
    return merged


def main():
    args = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    args.add_argument("--vetta", default="vetta", help="the program, as workers find it")
    args.add_argument("--files-per-task", type=int, default=200)
    args.add_argument("-o", dest="out", required=True)
    args.add_argument("paths", nargs="+")
    args = args.parse_args()
    files = files_in(args.paths)
    if not files:
        sys.exit("no files were found in the paths")
    vetta, size = args.vetta, max(1, args.files_per_task)
    spark = SparkSession.builder.appName("vetta shape").getOrCreate()
    try:
        tasks = [files[i:i + size] for i in range(0, len(files), size)]
        shapes = spark.sparkContext.parallelize(tasks, len(tasks)).map(lambda some: run(vetta, some))
        shape = shapes.treeReduce(merge(vetta))
    finally:
        spark.stop()
    if shape is None:
        sys.exit("no capture was found in the paths")
    with open(args.out + ".part", "wb") as out:
        out.write(shape)
    os.replace(args.out + ".part", args.out)


if __name__ == "__main__":
    main()
