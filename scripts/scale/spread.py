"""Runs a command that takes a page a line over all lines of a file, with Apache Spark: spread.py PAGES OUT WORKERS COMMAND…

`rdd.pipe` starts the command once a part, gives it the lines of that part and takes those that it prints.
"""

import shlex
import sys

from pyspark.sql import SparkSession

pages, out, workers, *command = sys.argv[1:]
spark = SparkSession.builder.master(f"local[{workers}]").config("spark.ui.enabled", "false").getOrCreate()
spark.sparkContext.setLogLevel("ERROR")
lines = spark.sparkContext.textFile(pages, minPartitions=4 * int(workers))
lines.pipe(" ".join(shlex.quote(word) for word in command), checkCode=True).saveAsTextFile(out)
